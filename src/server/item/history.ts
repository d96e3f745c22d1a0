import {
  and,
  asc,
  eq,
  exists,
  getTableColumns,
  gt,
  inArray,
  lte,
  sql,
  type SQL,
} from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import type { ItemEvent } from "@/core/item/event";
import type { Reader } from "@/db/connection";
import { itemEvent } from "@/db/schema";
import { namedQuery } from "@/db/statement";
import { eventOf } from "./rows";

/** The texts of an event by their ids; null where it has none. */
const bodies = sql<Record<string, string> | null>`(
  select jsonb_object_agg(t.id, t.body) from item_text t
  where t.item_id = item_event.item_id and t.seq = item_event.seq)`;

/**
 * Events of items with their texts, item by item in the order in which they happened: the one place
 * that reads a history.
 */
export async function readEvents(reader: Reader, which: SQL | undefined): Promise<ItemEvent[]> {
  return (await eventsWhere(reader, which)).map(eventRead);
}

const eventRead = ({
  bodies: texts,
  ...row
}: Awaited<ReturnType<typeof eventsWhere>>[number]): ItemEvent => eventOf(row, texts ?? {});

const eventsWhere = (reader: Reader, which: SQL | undefined) =>
  reader
    .select({ ...getTableColumns(itemEvent), bodies })
    .from(itemEvent)
    .where(which)
    .orderBy(asc(itemEvent.itemId), asc(itemEvent.seq));

const BETWEEN = namedQuery("events of an item between two versions", (reader) =>
  eventsWhere(
    reader,
    and(
      eq(itemEvent.itemId, sql.placeholder("itemId")),
      gt(itemEvent.seq, sql.placeholder("fromVersion")),
      lte(itemEvent.seq, sql.placeholder("version")),
    ),
  ),
);

/** What made an item of one version into that of a later one. */
export async function eventsBetween(
  reader: Reader,
  { itemId, fromVersion, version }: { itemId: string; fromVersion: number; version: number },
): Promise<ItemEvent[]> {
  return (await BETWEEN(reader, { itemId, fromVersion, version })).map(eventRead);
}

const undo = alias(itemEvent, "undo");

/** Whether an event was undone later, as a condition on the rows of `item_event`. */
export const wasUndone = (reader: Reader): SQL =>
  exists(
    reader
      .select({ one: sql`1` })
      .from(undo)
      .where(
        and(
          eq(undo.itemId, itemEvent.itemId),
          eq(undo.kind, "undone"),
          sql`${itemEvent.seq} between (${undo.old} ->> 'fromSeq')::int and (${undo.old} ->> 'toSeq')::int`,
        ),
      ),
  );

/** The whole history of an item. */
export const historyOf = (reader: Reader, itemId: string): Promise<ItemEvent[]> =>
  readEvents(reader, eq(itemEvent.itemId, itemId));

/** The whole histories of some items, by item. */
export async function historiesOf(
  reader: Reader,
  itemIds: readonly string[],
): Promise<Map<string, ItemEvent[]>> {
  const histories = new Map<string, ItemEvent[]>(itemIds.map((id) => [id, []]));
  if (itemIds.length === 0) return histories;
  const events = await readEvents(reader, inArray(itemEvent.itemId, [...itemIds]));
  for (const event of events) histories.get(event.itemId)!.push(event);
  return histories;
}
