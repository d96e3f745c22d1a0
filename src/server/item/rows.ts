import { v7 as newId } from "uuid";
import type { ItemEvent } from "@/core/item/event";
import { rewriteTexts } from "@/core/item/event-texts";
import type { ItemSnapshot } from "@/core/item/fields";
import type { item, itemEvent, itemText } from "@/db/schema";

export type ItemRow = typeof item.$inferSelect;
export type EventRow = typeof itemEvent.$inferSelect;

/** The row of an item is its snapshot, column by column. */
export function snapshotOf(row: ItemRow): ItemSnapshot {
  return row;
}

/** The rows of an event: itself with the ids of its free texts, and those texts. */
export interface EventRows {
  row: typeof itemEvent.$inferInsert;
  texts: (typeof itemText.$inferInsert)[];
}

export function eventRows(event: ItemEvent): EventRows {
  const { itemId, seq } = event;
  const texts: EventRows["texts"] = [];
  const withIds = rewriteTexts(event, (body) => {
    const id = newId();
    texts.push({ itemId, seq, id, body });
    return id;
  });
  const loose = withIds as { field?: string; old?: unknown; new?: unknown; note?: string | null };
  const { at, actorId, cause, commandId, kind } = event;
  const { field = null, old = null, note = null } = loose;
  const row = { itemId, seq, at, actorId, cause, commandId, kind, field, old };
  return { row: { ...row, new: loose.new ?? null, noteId: note }, texts };
}

/**
 * The event of a stored row. What `eventRows` wrote is read back as it was, but for texts that have
 * been emptied since.
 * @param bodies the event's texts by their ids
 * @throws Error when one of them is missing
 */
export function eventOf(row: EventRow, bodies: Readonly<Record<string, string>>): ItemEvent {
  const { itemId, seq, at, actorId, cause, commandId, kind, field, old, noteId: note } = row;
  const base = { itemId, seq, at, actorId, cause, commandId, kind };
  const withIds = { ...base, field, old, new: row.new, note } as unknown as ItemEvent;
  return rewriteTexts(withIds, (id) => {
    if (bodies[id] === undefined)
      throw new Error(`item ${itemId}, event ${seq}: text ${id} is gone`);
    return bodies[id];
  });
}
