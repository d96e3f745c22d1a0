import type { ItemEvent } from "@/core/item/event";
import type { ItemSnapshot } from "@/core/item/fields";
import type { item, itemEvent } from "@/db/schema";

export type ItemRow = typeof item.$inferSelect;
export type EventRow = typeof itemEvent.$inferSelect;

/** The row of an item is its snapshot, column by column. */
export function snapshotOf(row: ItemRow): ItemSnapshot {
  return row;
}

/** The events of stored rows. What was written by `eventRow` is read back as it was. */
export function eventOf(row: EventRow): ItemEvent {
  const { itemId, seq, at, actorId, cause, commandId, kind, field, old, note } = row;
  return {
    itemId,
    seq,
    at,
    actorId,
    cause,
    commandId,
    kind,
    field,
    old,
    new: row.new,
    note,
  } as unknown as ItemEvent;
}

export function eventRow(event: ItemEvent): typeof itemEvent.$inferInsert {
  const loose = event as { field?: string; old?: unknown; new?: unknown; note?: string | null };
  const { itemId, seq, at, actorId, cause, commandId, kind } = event;
  return {
    itemId,
    seq,
    at,
    actorId,
    cause,
    commandId,
    kind,
    field: loose.field ?? null,
    old: loose.old ?? null,
    new: loose.new ?? null,
    note: loose.note ?? null,
  };
}
