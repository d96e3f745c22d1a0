import { dayNumber, dayStart, weekStart } from "@/core/calendar/zone";
import type { DayNumber } from "@/core/calendar/instant";
import type { Period } from "./period";
import type { Finished } from "./measures";

export interface WeekOfThroughput {
  /** Monday of the ISO 8601 week. */
  week: DayNumber;
  /** Ids of the items that finished in it. */
  itemIds: string[];
  /** False where the period cuts the week, so the count is not comparable. */
  whole: boolean;
}

/** Items finished per ISO week of the zone's calendar; weeks without any are there with none. */
export function throughputByWeek(
  finished: readonly Finished[],
  period: Period,
  zone: string,
): WeekOfThroughput[] {
  const weeks = new Map<DayNumber, WeekOfThroughput>();
  const last = weekStart(dayNumber(period.to - 1, zone));
  for (let week = weekStart(dayNumber(period.from, zone)); week <= last; week += 7) {
    const whole = dayStart(week, zone) >= period.from && dayStart(week + 7, zone) <= period.to;
    weeks.set(week, { week, itemIds: [], whole });
  }
  for (const { itemId, at } of finished)
    weeks.get(weekStart(dayNumber(at, zone)))?.itemIds.push(itemId);
  return [...weeks.values()];
}
