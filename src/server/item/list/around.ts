import { and, eq, inArray, isNotNull, isNull, or, sql } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import { NOTHING_AROUND_IT, type Around, type AroundItems } from "@/core/board/around";
import type { Reader } from "@/db/connection";
import { item, itemLink } from "@/db/schema";
import { seesItem } from "../../people/access";
import type { Viewer } from "../../people/viewer";

/** What a person may see around some items of a project. */
export async function aroundItems(
  reader: Reader,
  viewer: Viewer,
  project: { key: string },
  ids: readonly string[],
): Promise<AroundItems> {
  if (ids.length === 0) return {};
  const [children, waits] = await Promise.all([
    childrenOf(reader, viewer, ids),
    dependenciesOf(reader, viewer, ids),
  ]);
  const wanted = new Set(ids);
  const around: Record<string, Around> = {};
  const at = (id: string): Around => (around[id] ??= structuredClone(NOTHING_AROUND_IT));
  for (const { parentId, ...counts } of children) Object.assign(at(parentId!), counts);
  for (const { waiting, wantedItem, waits: open, delivered, seesWaiting, seesWanted } of waits) {
    if (delivered) continue;
    const told = ({ number, ...end }: typeof waiting) => ({
      ...end,
      key: `${project.key}-${number}`,
    });
    if (wanted.has(waiting.id)) {
      if (seesWanted) at(waiting.id).waitsFor.push(told(wantedItem));
      else at(waiting.id).waitsForUnseen += 1;
    }
    if (wanted.has(wantedItem.id) && open && seesWaiting)
      at(wantedItem.id).waitedFor.push(told(waiting));
  }
  return around;
}

const childrenOf = (reader: Reader, viewer: Viewer, ids: readonly string[]) =>
  reader
    .select({
      parentId: item.parentId,
      children: sql<number>`count(*)::int`,
      finishedChildren: sql<number>`(count(*) filter (where ${item.stateKind} = 'finished'))::int`,
    })
    .from(item)
    .where(
      and(
        isNotNull(item.parentId),
        sql`${item.parentId} = any(${sql.param([...ids])}::uuid[])`,
        isNull(item.withdrawnAt),
        seesItem(reader, viewer),
      ),
    )
    .groupBy(item.parentId);

const from = alias(item, "waiting");
const to = alias(item, "wanted");
const endOf = (of: typeof from | typeof to) => ({
  id: of.id,
  number: of.number,
  teamId: of.teamId,
  sprintId: of.sprintId,
});

/** The dependencies of some items, either way, with what of both ends a person may see. */
const dependenciesOf = (reader: Reader, viewer: Viewer, ids: readonly string[]) =>
  reader
    .select({
      waiting: endOf(from),
      wantedItem: endOf(to),
      /** Whether the one that waits is still to be done. */
      waits: sql<boolean>`(${from.stateKind} <> 'finished' and ${from.withdrawnAt} is null)`,
      delivered: sql<boolean>`(${to.deliveredAt} is not null)`,
      seesWaiting: sql<boolean>`coalesce(${seesItem(reader, viewer, from) ?? sql`true`}, false)`,
      seesWanted: sql<boolean>`coalesce(${seesItem(reader, viewer, to) ?? sql`true`}, false)`,
    })
    .from(itemLink)
    .innerJoin(from, eq(from.id, itemLink.fromItemId))
    .innerJoin(to, eq(to.id, itemLink.toItemId))
    .where(
      and(
        eq(itemLink.kind, "waits for"),
        or(inArray(itemLink.fromItemId, [...ids]), inArray(itemLink.toItemId, [...ids])),
      ),
    )
    .orderBy(from.number, to.number);
