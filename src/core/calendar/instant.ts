/**
 * Milliseconds since 1970-01-01T00:00Z. All instants in the core are such numbers; time zones enter
 * only when days are counted.
 */
export type Instant = number;

/** A number of days; whole when counted by calendar, fractional when elapsed. */
export type Days = number;

/** Days since 1970-01-01 in the calendar of some time zone (a label of a day, not an instant). */
export type DayNumber = number;

/** A half-open stretch of time; `to` is null while it is still going on. */
export interface Interval {
  from: Instant;
  to: Instant | null;
}

export const MINUTE = 60_000;
export const HOUR = 60 * MINUTE;
export const DAY = 24 * HOUR;
export const WEEK = 7 * DAY;

/** How long two intervals overlap, in milliseconds; open ends reach to `now`. */
export function overlap(a: Interval, b: Interval, now: Instant): number {
  const from = Math.max(a.from, b.from);
  const to = Math.min(a.to ?? now, b.to ?? now);
  return Math.max(0, to - from);
}

/** How long intervals that do not overlap last together, in milliseconds; open ends reach to `now`. */
export const lengthOf = (intervals: readonly Interval[], now: Instant): number =>
  intervals.reduce((sum, { from, to }) => sum + (to ?? Math.max(now, from)) - from, 0);

/**
 * Intervals as they were known at an instant: what began later is left out, what ended later was
 * still going on and ends there.
 */
export const cutAt = <T extends Interval>(intervals: readonly T[], at: Instant): T[] =>
  intervals.flatMap((i) =>
    i.from < at ? [{ ...i, to: i.to === null || i.to > at ? at : i.to }] : [],
  );

/** Intervals merged where they overlap or touch, oldest first; open ends reach to `now`. */
export function mergeIntervals(
  intervals: readonly Interval[],
  now: Instant,
): { from: Instant; to: Instant }[] {
  const merged: { from: Instant; to: Instant }[] = [];
  for (const { from, to } of [...intervals].sort((a, b) => a.from - b.from)) {
    const last = merged.at(-1);
    const end = to ?? now;
    if (last && from <= last.to) last.to = Math.max(last.to, end);
    else merged.push({ from, to: end });
  }
  return merged;
}
