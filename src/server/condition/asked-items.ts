import { and, eq, inArray, isNull, or, sql, type SQL } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import { asksRelatives, type Condition } from "@/core/condition/condition";
import type { AskedItem } from "@/core/condition/facts";
import { computedFields } from "@/core/item/compute-fields";
import { grouped } from "@/core/item/grouped";
import type { OwnField } from "@/core/item/own-field";
import type { ItemSnapshot } from "@/core/item/fields";
import type { Reader } from "@/db/connection";
import { follow, item, itemLink, itemType, stay } from "@/db/schema";
import type { ItemColumns } from "../people/access";
import { readShown } from "./shown";
import { snapshotOf } from "../item/rows";
import { votesColumn } from "../item/votes";
import { childCounts, dependenciesOf } from "../item/around";

const other = alias(item, "other");

/**
 * What conditions can ask about some items, in the order given.
 * @param ownFields the project's, for what is computed
 * @param sees which other items count; all where it is left out
 */
export async function askedItems(
  reader: Reader,
  items: readonly ItemSnapshot[],
  ownFields: readonly OwnField[] = [],
  sees?: (of: ItemColumns) => SQL | undefined,
): Promise<AskedItem[]> {
  if (items.length === 0) return [];
  const ids = items.map((i) => i.id);
  const stays = await reader
    .selectDistinct({ itemId: stay.itemId, stateId: stay.stateId })
    .from(stay)
    .where(inArray(stay.itemId, ids));
  const links = await reader
    .select({ itemId: itemLink.fromItemId, otherId: itemLink.toItemId, kind: itemLink.kind })
    .from(itemLink)
    .innerJoin(other, eq(other.id, itemLink.toItemId))
    .where(
      and(or(inArray(itemLink.fromItemId, ids), inArray(itemLink.toItemId, ids)), sees?.(other)),
    );
  const children = await childCounts(reader, ids, sees?.(item));
  // Most items wait for nothing: the other ends are read where there are some.
  const waits = links.some(({ kind }) => kind === "waits for")
    ? await dependenciesOf(reader, ids, sees)
    : [];
  const levels = await levelsOf(reader, items);
  const wishes = await wishesFor(reader, ids);
  const shown = await readShown(reader, ids, ownFields, sees);
  const everIn = grouped(stays, (s) => s.itemId);
  const linked = grouped(links, (l) => l.itemId);
  const counts = new Map(children.map((c) => [c.parentId, c]));
  return items.map((i) => ({
    item: i,
    everIn: everIn.get(i.id)?.map((s) => s.stateId) ?? [],
    links: [...new Set(linked.get(i.id)?.map((l) => l.kind))],
    children: counts.get(i.id)?.children ?? 0,
    openChildren: openOf(counts.get(i.id)),
    waitsFor: waits.filter((one) => one.waiting.id === i.id && one.seesWanted).length,
    waitedFor: waits.filter((one) => one.wanted.id === i.id && one.waits && one.seesWaiting).length,
    followers: wishes.get(i.id)?.followers ?? [],
    votes: wishes.get(i.id)?.votes ?? 0,
    promise: null,
    level: levels.get(typeKey(i)) ?? null,
    computed: computedFields(ownFields, i),
    shown: shown.get(i.id) ?? {},
  }));
}

/** Who follows some items themselves, and what votes and reports come to, by item. */
async function wishesFor(
  reader: Reader,
  ids: readonly string[],
): Promise<ReadonlyMap<string, Pick<AskedItem, "followers" | "votes">>> {
  const following = sql`${follow.kind} in ('item', 'below') and ${follow.target} = ${item.id}::text and ${follow.on}`;
  const rows = await reader
    .select({
      id: item.id,
      followers: sql<
        string[]
      >`array(select distinct ${follow.personId} from ${follow} where ${following})`,
      votes: sql<number>`${votesColumn(item.id)}`,
    })
    .from(item)
    .where(inArray(item.id, [...ids]));
  return new Map(rows.map(({ id, ...wishes }) => [id, wishes]));
}

const typeKey = ({ projectId, typeId }: Pick<ItemSnapshot, "projectId" | "typeId">): string =>
  JSON.stringify([projectId, typeId]);

/** The levels of the types that some items have. */
async function levelsOf(
  reader: Reader,
  items: readonly ItemSnapshot[],
): Promise<ReadonlyMap<string, number>> {
  const projects = [...new Set(items.map(({ projectId }) => projectId))];
  const types = await reader
    .select({ projectId: itemType.projectId, typeId: itemType.id, level: itemType.level })
    .from(itemType)
    .where(inArray(itemType.projectId, projects));
  return new Map(types.map((type) => [typeKey(type), type.level]));
}

const openOf = (counts: { children: number; finishedChildren: number } | undefined): number =>
  counts === undefined ? 0 : counts.children - counts.finishedChildren;

/**
 * The same with what stands directly under and above each, for conditions that ask for that.
 * @param sees which of those count; all where it is left out
 */
export async function askedWithRelatives(
  reader: Reader,
  items: readonly ItemSnapshot[],
  ownFields: readonly OwnField[] = [],
  sees?: (of: ItemColumns) => SQL | undefined,
): Promise<AskedItem[]> {
  if (items.length === 0) return [];
  const ids = items.map(({ id }) => id);
  const parents = items.flatMap(({ parentId }) => parentId ?? []);
  const rows = await reader
    .select()
    .from(item)
    .where(
      and(
        or(inArray(item.parentId, ids), inArray(item.id, parents)),
        isNull(item.withdrawnAt),
        sees?.(item),
      ),
    );
  const [asked, around] = await Promise.all([
    askedItems(reader, items, ownFields, sees),
    askedItems(reader, rows.map(snapshotOf), ownFields, sees),
  ]);
  const children = grouped(around, (one) => one.item.parentId);
  const byId = new Map(around.map((one) => [one.item.id, one]));
  return asked.map((one) => {
    const parent = one.item.parentId === null ? undefined : byId.get(one.item.parentId);
    return {
      ...one,
      relatives: { children: children.get(one.item.id) ?? [], parent: parent ? [parent] : [] },
    };
  });
}

/** Some items as far as conditions ask for what stands around them. */
export const askedFor = (
  conditions: readonly Condition[],
  ...of: Parameters<typeof askedItems>
): Promise<AskedItem[]> =>
  conditions.some(asksRelatives) ? askedWithRelatives(...of) : askedItems(...of);
