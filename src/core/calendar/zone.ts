import { DAY, MINUTE, type DayNumber, type Instant, type Interval } from "./instant";

/**
 * Calendar days in an IANA time zone.
 *
 * The offset of a zone is asked of `Intl` twice for each UTC day and remembered; only on a day on
 * which the clocks change is it asked again, by the quarter of an hour (no zone changes at a finer
 * boundary today). That makes counting days over a hundred thousand histories cheap.
 */
interface ZoneClock {
  format: Intl.DateTimeFormat;
  /** By UTC day; null where the clocks change on that day. */
  offsets: Map<number, number | null>;
}

const clocks = new Map<string, ZoneClock>();
/** Most callers ask for one zone and one stretch of days many times in a row. */
let latest: { zone: string; clock: ZoneClock } | null = null;
const QUARTER = 15 * MINUTE;

function clockFor(zone: string): ZoneClock {
  if (latest?.zone === zone) return latest.clock;
  let clock = clocks.get(zone);
  if (!clock) {
    const format = new Intl.DateTimeFormat("en-US", {
      timeZone: zone,
      hourCycle: "h23",
      year: "numeric",
      month: "numeric",
      day: "numeric",
      hour: "numeric",
      minute: "numeric",
      second: "numeric",
    });
    clock = { format, offsets: new Map() };
    clocks.set(zone, clock);
  }
  latest = { zone, clock };
  return clock;
}

function askOffset(clock: ZoneClock, instant: Instant): number {
  const part: Record<string, number> = {};
  for (const { type, value } of clock.format.formatToParts(instant)) part[type] = Number(value);
  const local = Date.UTC(part.year, part.month - 1, part.day, part.hour, part.minute, part.second);
  return local - Math.floor(instant / 1000) * 1000;
}

/**
 * How far local time is ahead of UTC, in milliseconds.
 * @throws RangeError for a zone name that the runtime does not know
 */
export function zoneOffset(instant: Instant, zone: string): number {
  const clock = clockFor(zone);
  const utcDay = Math.floor(instant / DAY);
  let offset = clock.offsets.get(utcDay);
  if (offset === undefined) {
    const first = askOffset(clock, utcDay * DAY);
    offset = first === askOffset(clock, (utcDay + 1) * DAY) ? first : null;
    clock.offsets.set(utcDay, offset);
  }
  if (offset !== null) return offset;
  return askOffset(clock, Math.floor(instant / QUARTER) * QUARTER);
}

/** The calendar day on which an instant falls. `dayNumber(0, "UTC")` is 0. */
export function dayNumber(instant: Instant, zone: string): DayNumber {
  return Math.floor((instant + zoneOffset(instant, zone)) / DAY);
}

/** The first instant of a calendar day in a zone (midnight, or the first moment after a skipped midnight). */
export function dayStart(day: DayNumber, zone: string): Instant {
  const local = day * DAY;
  let instant = local - zoneOffset(local, zone);
  instant = local - zoneOffset(instant, zone);
  while (dayNumber(instant, zone) < day) instant += QUARTER;
  return instant;
}

/** `2026-03-29` for a day number. */
export function isoDate(day: DayNumber): string {
  return new Date(day * DAY).toISOString().slice(0, 10);
}

/** The day number of an ISO 8601 calendar date. @throws RangeError when the text is no date */
export function parseIsoDate(text: string): DayNumber {
  const ms = Date.parse(`${text}T00:00:00Z`);
  // The engine rolls 30 February over into March; that is no day that anybody meant.
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text) || Number.isNaN(ms) || isoDate(ms / DAY) !== text) throw new RangeError(`not a date: ${text}`);
  return ms / DAY;
}

/** Monday of the ISO 8601 week that a day belongs to. Day 0 was a Thursday. */
export function weekStart(day: DayNumber): DayNumber {
  return day - (((day + 3) % 7) + 7) % 7;
}

/** ISO 8601 week number and week-numbering year: the week that holds the year's first Thursday is week 1. */
export function isoWeek(day: DayNumber): { year: number; week: number } {
  const thursday = weekStart(day) + 3;
  const year = new Date(thursday * DAY).getUTCFullYear();
  const january1 = Date.UTC(year, 0, 1) / DAY;
  return { year, week: Math.floor((thursday - january1) / 7) + 1 };
}

/**
 * Days counted as people count them: the number of calendar days that the intervals touch.
 * For one interval that is `finish date − start date + 1`, so what starts and finishes on one day took 1 day;
 * a day touched by two intervals counts once.
 */
export function daysTouched(intervals: readonly Interval[], zone: string, now: Instant): number {
  let days = 0;
  let counted = -Infinity;
  for (const { from, to } of [...intervals].sort((a, b) => a.from - b.from)) {
    const first = Math.max(dayNumber(from, zone), counted + 1);
    const last = dayNumber(to ?? Math.max(now, from), zone);
    if (last >= first) {
      days += last - first + 1;
      counted = last;
    }
  }
  return days;
}
