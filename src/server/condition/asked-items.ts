import { and, eq, inArray, isNull, or, sql } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
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
    .select({ itemId: itemLink.fromItemId, otherId: itemLink.toItemId, kind: itemLink.kind })
    .from(itemLink)
    .where(or(inArray(itemLink.fromItemId, ids), inArray(itemLink.toItemId, ids)));
  const children = await reader
    .select({
      parentId: item.parentId,
      all: sql<number>`count(*)::int`,
      open: sql<number>`(count(*) filter (where ${item.stateKind} <> 'finished'))::int`,
    })
    .from(item)
    .where(and(inArray(item.parentId, ids), isNull(item.withdrawnAt)))
    .groupBy(item.parentId);
  const dependencies = links.filter(({ kind }) => kind === "waits for");
  const ends = new Set(dependencies.flatMap(({ itemId, otherId }) => [itemId, otherId]));
  const waits = await waitsOf(
    reader,
    ids.filter((id) => ends.has(id)),
  );
  const everIn = grouped(stays, (s) => s.stateId);
  const linked = grouped(links, (l) => l.kind);
  const counts = new Map(children.map((c) => [c.parentId, c]));
  return items.map((i) => ({
    item: i,
    everIn: everIn.get(i.id) ?? [],
    links: [...new Set(linked.get(i.id))],
    children: counts.get(i.id)?.all ?? 0,
    openChildren: counts.get(i.id)?.open ?? 0,
    waitsFor: waits.get(i.id)?.waitsFor ?? 0,
    waitedFor: waits.get(i.id)?.waitedFor ?? 0,
    computed: computedFields(ownFields, i),
  }));
}

interface Waits {
  waitsFor: number;
  waitedFor: number;
}

/** How many items some wait for, and how many wait for them. */
async function waitsOf(reader: Reader, ids: readonly string[]): Promise<Map<string, Waits>> {
  if (ids.length === 0) return new Map();
  const [waiting, wanted] = [alias(item, "waiting"), alias(item, "wanted")];
  const rows = await reader
    .select({
      waiting: { id: waiting.id, kind: waiting.stateKind, withdrawnAt: waiting.withdrawnAt },
      wanted: { id: wanted.id, deliveredAt: wanted.deliveredAt },
    })
    .from(itemLink)
    .innerJoin(waiting, eq(waiting.id, itemLink.fromItemId))
    .innerJoin(wanted, eq(wanted.id, itemLink.toItemId))
    .where(
      and(
        eq(itemLink.kind, "waits for"),
        or(inArray(itemLink.fromItemId, [...ids]), inArray(itemLink.toItemId, [...ids])),
      ),
    );
  const open = rows.filter((row) => row.wanted.deliveredAt === null);
  const isWaiting = ({ kind, withdrawnAt }: (typeof open)[number]["waiting"]) =>
    kind !== "finished" && withdrawnAt === null;
  return new Map(
    ids.map((id) => [
      id,
      {
        waitsFor: open.filter((row) => row.waiting.id === id).length,
        waitedFor: open.filter((row) => row.wanted.id === id && isWaiting(row.waiting)).length,
      },
    ]),
  );
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
