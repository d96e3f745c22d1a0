import { and, inArray, isNull, sql } from "drizzle-orm";
import type { AskedItem } from "@/core/condition/facts";
import { computedFields } from "@/core/item/compute-fields";
import type { OwnField } from "@/core/item/own-field";
import type { ItemSnapshot } from "@/core/item/fields";
import type { Reader } from "@/db/connection";
import { item, itemLink, stay } from "@/db/schema";

/**
 * What conditions can ask about some items, in the order given. @param ownFields the project's, for
 * what is computed
 */
export async function askedItems(
  reader: Reader,
  items: readonly ItemSnapshot[],
  ownFields: readonly OwnField[] = [],
): Promise<AskedItem[]> {
  if (items.length === 0) return [];
  const ids = items.map((i) => i.id);
  const stays = await reader
    .selectDistinct({ itemId: stay.itemId, stateId: stay.stateId })
    .from(stay)
    .where(inArray(stay.itemId, ids));
  const links = await reader
    .selectDistinct({ itemId: itemLink.fromItemId, kind: itemLink.kind })
    .from(itemLink)
    .where(inArray(itemLink.fromItemId, ids));
  const children = await reader
    .select({
      parentId: item.parentId,
      all: sql<number>`count(*)::int`,
      open: sql<number>`(count(*) filter (where ${item.stateKind} <> 'finished'))::int`,
    })
    .from(item)
    .where(and(inArray(item.parentId, ids), isNull(item.withdrawnAt)))
    .groupBy(item.parentId);
  const everIn = grouped(stays, (s) => s.stateId);
  const linked = grouped(links, (l) => l.kind);
  const counts = new Map(children.map((c) => [c.parentId, c]));
  return items.map((i) => ({
    item: i,
    everIn: everIn.get(i.id) ?? [],
    links: linked.get(i.id) ?? [],
    children: counts.get(i.id)?.all ?? 0,
    openChildren: counts.get(i.id)?.open ?? 0,
    computed: computedFields(ownFields, i),
  }));
}

function grouped<R extends { itemId: string }, V>(
  rows: readonly R[],
  valueOf: (row: R) => V,
): Map<string, V[]> {
  const groups = new Map<string, V[]>();
  for (const row of rows) groups.set(row.itemId, [...(groups.get(row.itemId) ?? []), valueOf(row)]);
  return groups;
}

/** One item, by its snapshot. */
export async function askedItem(
  reader: Reader,
  snapshot: ItemSnapshot,
  ownFields: readonly OwnField[] = [],
): Promise<AskedItem> {
  const [asked] = await askedItems(reader, [snapshot], ownFields);
  return asked;
}
