import { NOTHING_AROUND_IT, type Around, type AroundItems } from "@/core/board/around";
import type { Reader } from "@/db/connection";
import type { Ground } from "../../across/ground";
import { seesItem } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import { belowLarge, childCounts, dependenciesOf } from "../around";

/** What a person may see around some items of a project. */
export async function aroundItems(
  reader: Reader,
  viewer: Viewer,
  { keyOf }: Pick<Ground, "keyOf">,
  ids: readonly string[],
): Promise<AroundItems> {
  if (ids.length === 0) return {};
  const [children, below, dependencies] = await Promise.all([
    childCounts(reader, ids, seesItem(reader, viewer)),
    belowLarge(reader, ids, (of) => seesItem(reader, viewer, of)),
    dependenciesOf(reader, ids, (of) => seesItem(reader, viewer, of)),
  ]);
  const asked = new Set(ids);
  const around: Record<string, Around> = {};
  const at = (id: string): Around => (around[id] ??= structuredClone(NOTHING_AROUND_IT));
  for (const { parentId, ...counts } of children) Object.assign(at(parentId!), counts);
  for (const { root, ...of } of below) at(root).below = [...(at(root).below ?? []), of];
  for (const { waiting, wanted, waits, seesWaiting, seesWanted } of dependencies) {
    const told = ({ number, projectId, ...end }: typeof waiting) => ({
      ...end,
      key: `${keyOf(projectId)}-${number}`,
    });
    if (asked.has(waiting.id)) {
      if (seesWanted) at(waiting.id).waitsFor.push(told(wanted));
      else at(waiting.id).waitsForUnseen += 1;
    }
    if (asked.has(wanted.id) && waits && seesWaiting) at(wanted.id).waitedFor.push(told(waiting));
  }
  return around;
}
