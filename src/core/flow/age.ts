import { counted } from "@/core/formats/counted";
import {
  DAY,
  HOUR,
  lengthOf,
  MINUTE,
  type Days,
  type Instant,
  type Interval,
} from "@/core/calendar/instant";
import { daysTouched } from "@/core/calendar/zone";

/** How old an item is: the calendar days that its clock touches, and the exact time it ran. */
export interface Age {
  /** What is compared, drawn and counted: today included. */
  age: Days;
  /** In days of 24 hours. */
  elapsed: Days;
}

/** Work item age by a clock so far. */
export const ageOf = (clock: readonly Interval[], zone: string, now: Instant): Age => ({
  age: daysTouched(clock, zone, now),
  elapsed: lengthOf(clock, now) / DAY,
});

/**
 * An age in words: minutes and hours as long as not a whole day has run, since a start shortly
 * before midnight is no work of two days; after that the days it touched. Short where there is
 * little room.
 */
export function ageWords({ age, elapsed }: Age, style: "long" | "short" = "long"): string {
  const words = (n: number, unit: string, short: string) =>
    style === "short" ? `${n} ${short}` : counted(n, unit);
  if (elapsed * DAY < HOUR) return words(Math.floor((elapsed * DAY) / MINUTE), "minute", "min");
  if (elapsed < 1) return words(Math.floor((elapsed * DAY) / HOUR), "hour", "h");
  return words(age, "day", "d");
}
