import { and, asc, eq, inArray, isNull, lt, not, or, sql } from "drizzle-orm";
import type { Instant, Interval } from "@/core/calendar/instant";
import { parseIsoDate } from "@/core/calendar/zone";
import type { ItemEvent } from "@/core/item/event";
import { UNIT_LEVEL } from "@/core/item/item-type";
import { grouped } from "@/core/item/grouped";
import type { Timebox } from "@/core/plan/membership";
import { hourItems, type WorkedDay } from "@/core/plan/sprint-hours";
import type { ItemOverTime } from "@/core/plan/sprint-ledger";
import type { Reader } from "@/db/connection";
import { item, itemEvent, itemType, stay, timeboxMembership, timeEntry } from "@/db/schema";
import { readEvents, wasUndone } from "../item/history";

/** Everything that was ever in some sprints or releases, by those, as far as their figures ask for it. */
export async function timeboxItems(
  reader: Reader,
  sprintIds: readonly string[],
  box: Timebox = "sprint",
): Promise<Map<string, ItemOverTime[]>> {
  if (sprintIds.length === 0) return new Map();
  const members = await reader
    .select({
      sprintId: timeboxMembership.boxId,
      itemId: timeboxMembership.itemId,
      from: timeboxMembership.fromAt,
      to: timeboxMembership.toAt,
    })
    .from(timeboxMembership)
    .where(and(eq(timeboxMembership.box, box), inArray(timeboxMembership.boxId, [...sprintIds])))
    .orderBy(asc(timeboxMembership.fromAt), asc(timeboxMembership.itemId));
  return itemsOverTime(
    reader,
    members.map(({ sprintId, itemId, from, to }) => ({ boxId: sprintId, itemId, from, to })),
  );
}

/** That an item was in something for a time. */
interface Stay extends Interval {
  boxId: string;
  itemId: string;
}

/** Items by what they were in for a time, with what their sizes and their finishes were. */
export async function itemsOverTime(
  reader: Reader,
  stays: readonly Stay[],
): Promise<Map<string, ItemOverTime[]>> {
  const ids = [...new Set(stays.map(({ itemId }) => itemId))];
  const [sizes, finished, delivered] = await Promise.all([
    historyOf(reader, ids, "estimate"),
    finishedOf(reader, ids),
    deliveredOf(reader, ids),
  ]);
  return new Map(
    [...grouped(stays, ({ boxId }) => boxId)].map(([boxId, rows]) => [
      boxId,
      [...grouped(rows, ({ itemId }) => itemId)].map(([id, of]) => ({
        id,
        inside: of.map(({ from, to }): Interval => ({ from, to })),
        finished: finished.get(id) ?? [],
        sizes: sizes.get(id) ?? [],
        deliveredAt: delivered.get(id) ?? null,
      })),
    ]),
  );
}

/**
 * What items said in a field that is a number, from when on: as they were made, and as that was changed
 * and not undone.
 */
async function historyOf(
  reader: Reader,
  ids: readonly string[],
  field: "estimate" | "remainingHours",
): Promise<Map<string, { from: Instant; size: number | null }[]>> {
  if (ids.length === 0) return new Map();
  const events = await readEvents(
    reader,
    and(
      inArray(itemEvent.itemId, [...ids]),
      or(
        eq(itemEvent.kind, "created"),
        and(eq(itemEvent.kind, "changed"), eq(itemEvent.field, field)),
      ),
      not(wasUndone(reader)),
    ),
  );
  const sizeOf = (event: ItemEvent): number | null => {
    if (event.kind === "created") return event.new[field];
    return event.kind === "changed" ? (event.new as number | null) : null;
  };
  const byItem = grouped(events, ({ itemId }) => itemId);
  return new Map(
    [...byItem].map(([id, of]) => [
      id,
      of.map((event) => ({ from: event.at, size: sizeOf(event) })),
    ]),
  );
}

async function finishedOf(
  reader: Reader,
  ids: readonly string[],
): Promise<Map<string, Interval[]>> {
  if (ids.length === 0) return new Map();
  const rows = await reader
    .select({ itemId: stay.itemId, from: stay.enteredAt, to: stay.leftAt })
    .from(stay)
    .where(and(inArray(stay.itemId, [...ids]), eq(stay.kind, "finished")))
    .orderBy(asc(stay.enteredAt));
  const found = grouped(rows, ({ itemId }) => itemId);
  return new Map([...found].map(([id, of]) => [id, of.map(({ from, to }) => ({ from, to }))]));
}

async function deliveredOf(reader: Reader, ids: readonly string[]): Promise<Map<string, Instant>> {
  if (ids.length === 0) return new Map();
  const rows = await reader
    .select({ id: item.id, at: item.deliveredAt })
    .from(item)
    .where(inArray(item.id, [...ids]));
  return new Map(rows.flatMap(({ id, at }) => (at === null ? [] : [[id, at] as const])));
}

/** What is in a sprint and the tasks below that, by the hours that are left on each. */
export async function sprintHours(
  reader: Reader,
  members: readonly ItemOverTime[],
): Promise<ItemOverTime[]> {
  const ids = members.map(({ id }) => id);
  if (ids.length === 0) return [];
  const tasks = await reader
    .select({ id: item.id, parentId: item.parentId, createdAt: item.createdAt })
    .from(item)
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .where(and(inArray(item.parentId, ids), lt(itemType.level, UNIT_LEVEL)));
  const below = tasks.map(({ id }) => id);
  const [hours, finished] = await Promise.all([
    historyOf(reader, [...ids, ...below], "remainingHours"),
    finishedOf(reader, below),
  ]);
  return hourItems(
    members.map((member) => ({ ...member, hours: hours.get(member.id) ?? [] })),
    tasks.map(({ id, parentId, createdAt }) => ({
      id,
      parentId: parentId!,
      createdAt,
      hours: hours.get(id) ?? [],
      finished: finished.get(id) ?? [],
      deliveredAt: null,
    })),
  );
}

/** The hours that were recorded on some items, by day. */
export async function workedOn(reader: Reader, ids: readonly string[]): Promise<WorkedDay[]> {
  if (ids.length === 0) return [];
  const rows = await reader
    .select({ on: timeEntry.on, minutes: sql<number>`sum(${timeEntry.minutes})::int` })
    .from(timeEntry)
    .where(and(inArray(timeEntry.itemId, [...ids]), isNull(timeEntry.goneAt)))
    .groupBy(timeEntry.on);
  return rows.map(({ on, minutes }) => ({ day: parseIsoDate(on), hours: minutes / 60 }));
}
