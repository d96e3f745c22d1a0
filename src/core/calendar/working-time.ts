import { z } from "zod";
import type { DayNumber, Instant } from "./instant";
import { dayNumber, isDay, isoDate, wallClock } from "./zone";

/** When a project works, in its own time zone. */
export interface WorkingCalendar {
  /**
   * By weekday, Monday first: when work begins and ends, in minutes since midnight; null on days
   * without work.
   */
  week: readonly ({ from: number; to: number } | null)[];
  /** Days without work, whatever the weekday; ISO 8601 dates. */
  holidays: readonly { date: string; name: string }[];
}

const MINUTES_A_DAY = 24 * 60;

/** Monday to Friday, nine to five. */
export const OFFICE_HOURS: WorkingCalendar = {
  week: [0, 1, 2, 3, 4, 5, 6].map((d) => (d < 5 ? { from: 9 * 60, to: 17 * 60 } : null)),
  holidays: [],
};

/** So many days without work a calendar has at most. */
export const MOST_HOLIDAYS = 500;

const minute = z.number().int().min(0).max(MINUTES_A_DAY);

export const workingCalendarSchema: z.ZodType<WorkingCalendar> = z
  .object({
    week: z.array(z.object({ from: minute, to: minute }).nullable()).length(7),
    holidays: z
      .array(z.object({ date: z.iso.date(), name: z.string().trim().max(80) }))
      .max(MOST_HOLIDAYS),
  })
  .superRefine((calendar, context) => {
    const complain = (message: string) => context.addIssue({ code: "custom", message });
    if (calendar.week.every((d) => d === null))
      complain("There has to be a day of work in the week.");
    if (calendar.week.some((d) => d && d.to <= d.from))
      complain("A day's work ends after it begins.");
    if (new Set(calendar.holidays.map((h) => h.date)).size < calendar.holidays.length)
      complain("A day without work is there twice.");
  });

/** Further than this no target lies; a calendar of nothing but holidays ends here. */
const LONGEST_SEARCH = 3_660;

/**
 * The stretch of a day in which work is done; null on days without any, and on a day that a zone
 * left out. Hours are those that the clocks on the wall show: on a day on which they change, a
 * stretch over the change is an hour shorter or longer (IANA zone rules).
 */
export function workOfDay(calendar: WorkingCalendar, day: DayNumber, zone: string): Work {
  let zones = known.get(calendar);
  if (!zones) known.set(calendar, (zones = new Map()));
  let days = zones.get(zone);
  if (!days) zones.set(zone, (days = new Map()));
  let work = days.get(day);
  if (work === undefined) days.set(day, (work = findWork(calendar, day, zone)));
  return work;
}

type Work = { readonly from: Instant; readonly to: Instant } | null;
/**
 * Days that were worked out once, for as long as their calendar is held: many promises run over the
 * same days.
 */
const known = new WeakMap<WorkingCalendar, Map<string, Map<DayNumber, Work>>>();

function findWork(calendar: WorkingCalendar, day: DayNumber, zone: string): Work {
  // Day 0 was a Thursday; Monday comes first.
  const hours = calendar.week[(((day + 3) % 7) + 7) % 7];
  if (!hours || !isDay(day, zone) || calendar.holidays.some((h) => h.date === isoDate(day)))
    return null;
  return { from: wallClock(day, hours.from, zone), to: wallClock(day, hours.to, zone) };
}

/**
 * The working time between two instants, in milliseconds; 0 where the second is not after the
 * first.
 */
export function workingTime(
  calendar: WorkingCalendar,
  from: Instant,
  to: Instant,
  zone: string,
): number {
  let sum = 0;
  if (to <= from) return 0;
  for (let day = dayNumber(from, zone); day <= dayNumber(to, zone); day++) {
    const work = workOfDay(calendar, day, zone);
    if (work) sum += Math.max(0, Math.min(to, work.to) - Math.max(from, work.from));
  }
  return sum;
}

/**
 * The first instant at which so much working time has passed since another; no time at all has
 * passed at once.
 * @param time milliseconds, not negative
 * @returns null where there is not so much work in the next ten years
 */
export function afterWorkingTime(
  calendar: WorkingCalendar,
  from: Instant,
  time: number,
  zone: string,
): Instant | null {
  if (time === 0) return from;
  let left = time;
  const first = dayNumber(from, zone);
  for (let day = first; day < first + LONGEST_SEARCH; day++) {
    const work = workOfDay(calendar, day, zone);
    if (!work) continue;
    const start = Math.max(from, work.from);
    const room = work.to - start;
    if (room < 0) continue;
    if (left <= room) return start + left;
    left -= room;
  }
  return null;
}
