import { z } from "zod";
import { shortDate } from "@/core/calendar/day-words";
import { isDay, weekdayOf, type Day } from "@/core/calendar/month";
import type { DayNumber, Instant } from "@/core/calendar/instant";
import { dayNumber, isoDate, wallClock } from "@/core/calendar/zone";

/** When a person works and may be written to. */
export interface PersonHours {
  /** IANA name. */
  zone: string;
  /** Of the week, 0 is Monday. */
  workDays: readonly number[];
  /** Minutes since midnight, over midnight where it begins later than it ends; null for none. */
  quiet: { from: number; to: number } | null;
  /** Of a working day. */
  hoursADay: number;
  /** When the digest of a working day is written, in minutes since midnight. */
  morningAt: number;
  /** The day of the weekly digest, 0 is Monday. */
  weeklyOn: number;
  daysOff: readonly { from: Day; to: Day }[];
}

/** The hours of whoever has said nothing else. */
export const usualHours = (zone: string): PersonHours => ({
  zone,
  workDays: [0, 1, 2, 3, 4],
  hoursADay: 8,
  quiet: { from: 20 * 60, to: 7 * 60 },
  morningAt: 7 * 60 + 30,
  weeklyOn: 0,
  daysOff: [],
});

const minutes = z
  .number()
  .int()
  .min(0)
  .max(24 * 60 - 1);
const weekday = z.number().int().min(0).max(6);
const day = z.string().refine(isDay, "Write a day like 2026-11-28.");

/** So many stretches of days off are kept. */
export const MOST_DAYS_OFF = 60;

export const personHoursSchema = z.object({
  zone: z.string().max(60).refine(isZone, "This time zone is not known."),
  workDays: z
    .array(weekday)
    .min(1, "Choose at least one working day.")
    .max(7)
    .transform((days) => [...new Set(days)].toSorted((a, b) => a - b)),
  hoursADay: z
    .number()
    .min(0.5, "A working day has half an hour at least.")
    .max(24, "A day has 24 hours."),
  quiet: z
    .object({ from: minutes, to: minutes })
    .refine(({ from, to }) => from !== to, "Quiet hours that begin when they end are none.")
    .nullable(),
  morningAt: minutes,
  weeklyOn: weekday,
  daysOff: z
    .array(
      z
        .object({ from: day, to: day })
        .refine(({ from, to }) => from <= to, "The last day is before the first."),
    )
    .max(MOST_DAYS_OFF),
});

function isZone(name: string): boolean {
  try {
    return new Intl.DateTimeFormat("en", { timeZone: name }).resolvedOptions().timeZone !== "";
  } catch {
    return false;
  }
}

/** Whether a person works on a day. */
export const worksOn = ({ workDays, daysOff }: PersonHours, on: Day): boolean =>
  workDays.includes(weekdayOf(on)) && !daysOff.some(({ from, to }) => from <= on && on <= to);

/** Until when a person is away who is away now, as the last such day; null where they are not. */
export function awayUntil({ daysOff }: PersonHours, on: Day): Day | null {
  return daysOff.find(({ from, to }) => from <= on && on <= to)?.to ?? null;
}

/** "away until 3 Dec", "away from 5 Dec" where that is within so many days; null where neither. */
export function awayWords(hours: PersonHours, now: Instant): string | null {
  const today = isoDate(dayNumber(now, hours.zone));
  const until = awayUntil(hours, today);
  if (until !== null) return `away until ${shortDate(until)}`;
  const soon = isoDate(dayNumber(now, hours.zone) + SOON);
  const next = hours.daysOff.find(({ from }) => from > today && from <= soon);
  return next ? `away from ${shortDate(next.from)}` : null;
}

const SOON = 7;

/** So far ahead a working day is looked for; somebody away longer hears when they are back. */
const LOOKED_AHEAD = 400;

/**
 * The first instant, not before one, at which a person may be written to: on a working day, outside
 * their quiet hours.
 */
export function mayWriteAt(hours: PersonHours, at: Instant): Instant {
  const first = dayNumber(at, hours.zone);
  for (let number = first; number < first + LOOKED_AHEAD; number++) {
    if (!worksOn(hours, isoDate(number))) continue;
    for (const { from, to } of openHours(hours, number))
      if (from < to && at < to) return Math.max(at, from);
  }
  return at;
}

/** The stretches of a day outside the quiet hours. */
function openHours({ quiet, zone }: PersonHours, number: DayNumber) {
  const open = !quiet
    ? [[0, 24 * 60]]
    : quiet.from < quiet.to
      ? [
          [0, quiet.from],
          [quiet.to, 24 * 60],
        ]
      : [[quiet.to, quiet.from]];
  return open.map(([from, to]) => ({
    from: wallClock(number, from, zone),
    to: wallClock(number, to, zone),
  }));
}

/**
 * When the latest digest that is not after an instant was to be written; what came before it
 * belongs into it. The weekly one comes on its day, or, where that is no working day, on the next.
 */
export function lastDigest(hours: PersonHours, digest: "morning" | "weekly", at: Instant): Instant {
  const today = dayNumber(at, hours.zone);
  for (let number = today; number > today - LOOKED_AHEAD; number--) {
    const written = wallClock(number, hours.morningAt, hours.zone);
    if (written <= at && isDigestDay(hours, digest, number)) return written;
  }
  return -Infinity;
}

function isDigestDay(hours: PersonHours, digest: "morning" | "weekly", number: DayNumber): boolean {
  if (!worksOn(hours, isoDate(number))) return false;
  if (digest === "morning") return true;
  for (let back = 0; back < 7; back++) {
    if (weekdayOf(isoDate(number - back)) === hours.weeklyOn) return true;
    if (worksOn(hours, isoDate(number - back - 1))) return false;
  }
  return false;
}
