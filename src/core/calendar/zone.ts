import { Temporal } from "temporal-polyfill";
import { DAY, type DayNumber, type Instant, type Interval } from "./instant";

/*
 * Calendar days in an IANA time zone, by Temporal (TC39, proposal-temporal; here the package
 * temporal-polyfill). A zone is asked once for each stretch between two changes of its clocks; the
 * answer is remembered, so that counting days over a hundred thousand histories is cheap.
 */

/** A stretch of time in which the clocks of a zone do not change. */
interface Stretch {
  from: Instant;
  /** The first instant after it. */
  to: Instant;
  /** How far local time is ahead of UTC, in milliseconds. */
  offset: number;
}

const stretches = new Map<string, Stretch[]>();
/** Most callers ask for one zone and one stretch many times in a row. */
let latest: { zone: string; stretch: Stretch } | null = null;

function stretchAt(instant: Instant, zone: string): Stretch {
  if (latest?.zone === zone && instant >= latest.stretch.from && instant < latest.stretch.to)
    return latest.stretch;
  let known = stretches.get(zone);
  if (!known) stretches.set(zone, (known = []));
  let stretch = known.find((s) => instant >= s.from && instant < s.to);
  if (!stretch) known.push((stretch = askStretch(instant, zone)));
  latest = { zone, stretch };
  return stretch;
}

function askStretch(instant: Instant, zone: string): Stretch {
  const at = Temporal.Instant.fromEpochMilliseconds(Math.floor(instant)).toZonedDateTimeISO(zone);
  // A change at this very instant is the beginning of this stretch, not the end of the one before.
  const before = at.add({ milliseconds: 1 }).getTimeZoneTransition("previous");
  const after = at.getTimeZoneTransition("next");
  return {
    from: before?.epochMilliseconds ?? -Infinity,
    to: after?.epochMilliseconds ?? Infinity,
    offset: at.offsetNanoseconds / 1e6,
  };
}

/**
 * How far local time is ahead of UTC, in milliseconds.
 * @throws RangeError for a zone name that the runtime does not know
 */
export const zoneOffset = (instant: Instant, zone: string): number =>
  stretchAt(instant, zone).offset;

/** The calendar day on which an instant falls. `dayNumber(0, "UTC")` is 0. */
export function dayNumber(instant: Instant, zone: string): DayNumber {
  return Math.floor((instant + zoneOffset(instant, zone)) / DAY);
}

/**
 * The first instant of a calendar day in a zone: midnight, or the first moment after a skipped one.
 * Of a day that never was, that of the next.
 */
export function dayStart(day: DayNumber, zone: string): Instant {
  let known = dayStarts.get(zone);
  if (!known || known.size >= KEPT_DAYS) dayStarts.set(zone, (known = new Map()));
  let start = known.get(day);
  if (start === undefined)
    known.set(day, (start = plainDate(day).toZonedDateTime(zone).epochMilliseconds));
  return start;
}

/** Diagrams ask for the same days of the same zone over and over. */
const dayStarts = new Map<string, Map<DayNumber, Instant>>();
const KEPT_DAYS = 4_000;

/** Whether a zone had a calendar day: one that moves over the date line leaves one out. */
export function isDay(day: DayNumber, zone: string): boolean {
  return dayNumber(dayStart(day, zone), zone) === day;
}

/**
 * The instant at which the clocks of a zone show a time of a day; of a time that is skipped, the
 * moment as far after the change as it would have been after the hour that is left out; of one that
 * there is twice, the first (Temporal, disambiguation "compatible").
 * @param minutes since midnight; 1440 is the beginning of the next day
 */
export function wallClock(day: DayNumber, minutes: number, zone: string): Instant {
  if (minutes >= 24 * 60) return dayStart(day + 1, zone);
  const time = Temporal.PlainTime.from({ hour: Math.floor(minutes / 60), minute: minutes % 60 });
  return plainDate(day)
    .toPlainDateTime(time)
    .toZonedDateTime(zone, { disambiguation: "compatible" }).epochMilliseconds;
}

const plainDate = (day: DayNumber) => new Temporal.PlainDate(1970, 1, 1).add({ days: day });

/** `2026-03-29` for a day number. */
export function isoDate(day: DayNumber): string {
  return new Date(day * DAY).toISOString().slice(0, 10);
}

/** The day number of an ISO 8601 calendar date. @throws RangeError when the text is no date */
export function parseIsoDate(text: string): DayNumber {
  const ms = Date.parse(`${text}T00:00:00Z`);
  // The engine rolls 30 February over into March; that is no day that anybody meant.
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text) || Number.isNaN(ms) || isoDate(ms / DAY) !== text)
    throw new RangeError(`not a date: ${text}`);
  return ms / DAY;
}

/** Monday of the ISO 8601 week that a day belongs to. Day 0 was a Thursday. */
export function weekStart(day: DayNumber): DayNumber {
  return day - ((((day + 3) % 7) + 7) % 7);
}

/**
 * ISO 8601 week number and week-numbering year: the week that holds the year's first Thursday is
 * week 1.
 */
export function isoWeek(day: DayNumber): { year: number; week: number } {
  const thursday = weekStart(day) + 3;
  const year = new Date(thursday * DAY).getUTCFullYear();
  const january1 = Date.UTC(year, 0, 1) / DAY;
  return { year, week: Math.floor((thursday - january1) / 7) + 1 };
}

/**
 * Days counted as people count them: the number of calendar days that the intervals touch. For one
 * interval that is `finish date − start date + 1`, so what starts and finishes on one day took 1
 * day; a day touched by two intervals counts once.
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
