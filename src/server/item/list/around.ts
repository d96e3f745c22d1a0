import { NOTHING_AROUND_IT, type Around, type AroundItems } from "@/core/board/around";
import type { Reader } from "@/db/connection";
import { seesAnywhere, seesItem } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import { belowLarge, childCounts, dependenciesOf, talkOf } from "../around";

/**
 * What a person may see around some items.
 * @param zone IANA zone in which days of talk are counted
 */
export async function aroundItems(
  reader: Reader,
  viewer: Viewer,
  { zone }: { zone: string },
  ids: readonly string[],
): Promise<AroundItems> {
  if (ids.length === 0) return {};
  const [children, below, dependencies, talk] = await Promise.all([
    childCounts(reader, ids, seesItem(reader, viewer)),
    belowLarge(reader, ids, (of) => seesItem(reader, viewer, of)),
    dependenciesOf(reader, ids, (of) => seesAnywhere(reader, viewer, of)),
    talkOf(reader, ids, { zone, now: Date.now() }),
  ]);
  const asked = new Set(ids);
  const around: Record<string, Around> = {};
  const at = (id: string): Around => (around[id] ??= structuredClone(NOTHING_AROUND_IT));
  for (const { parentId, ...counts } of children) Object.assign(at(parentId!), counts);
  for (const { id, talked, worked } of talk) Object.assign(at(id), { talked, worked });
  for (const { root, ...of } of below) at(root).below = [...(at(root).below ?? []), of];
  for (const { waiting, wanted, waits, seesWaiting, seesWanted } of dependencies) {
    if (asked.has(waiting.id)) {
      if (seesWanted) at(waiting.id).waitsFor.push(wanted);
      else at(waiting.id).waitsForUnseen += 1;
    }
    if (asked.has(wanted.id) && waits && seesWaiting) at(wanted.id).waitedFor.push(waiting);
  }
  return around;
}
