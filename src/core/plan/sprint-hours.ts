import type { DayNumber, Instant, Interval } from "@/core/calendar/instant";
import type { ItemOverTime } from "./sprint-ledger";

/*
 * A sprint in hours: the ledger of what is left is the same, only that what an item is counted by is
 * the hours that are left on it, and that the tasks below what is planned count too.
 */

/** An item by the hours left on it over time, as a sprint asks for it. */
interface OverTime extends Omit<ItemOverTime, "inside" | "sizes"> {
  /** The hours left on it, each from when on; null: nobody had said. */
  hours: ItemOverTime["sizes"];
}

/** A task below something that is planned. */
interface TaskOverTime extends OverTime {
  parentId: string;
  createdAt: Instant;
}

/**
 * What a sprint's hours are of: what is in it, and the tasks below that, from when they were made and
 * as long as what they are below is in it. A task that is in it by itself counts once.
 * @returns items whose sizes are hours
 */
export function hourItems(
  members: readonly (OverTime & Pick<ItemOverTime, "inside">)[],
  tasks: readonly TaskOverTime[],
): ItemOverTime[] {
  const inside = new Map(members.map((member) => [member.id, member.inside]));
  const below = tasks.flatMap(({ parentId, createdAt, hours, ...task }) => {
    const above = inside.get(parentId);
    if (!above || inside.has(task.id)) return [];
    return [{ ...task, sizes: hours, inside: since(above, createdAt) }];
  });
  return [...members.map(({ hours, ...of }) => ({ ...of, sizes: hours })), ...below];
}

/** Intervals as far as they lie behind an instant. */
const since = (intervals: readonly Interval[], at: Instant): Interval[] =>
  intervals.flatMap(({ from, to }) =>
    to !== null && to <= at ? [] : [{ from: Math.max(from, at), to }],
  );

/** Hours that were recorded on a day. */
export interface WorkedDay {
  day: DayNumber;
  hours: number;
}

/** The hours that were recorded from a day on up to the end of another. */
export const workedUntil = (
  worked: readonly WorkedDay[],
  { from, to }: { from: DayNumber; to: DayNumber },
): number =>
  worked.reduce((sum, { day, hours }) => (day >= from && day <= to ? sum + hours : sum), 0);
