import { parseIsoDate, isoDate } from "@/core/calendar/zone";

const ISO = /^(\d{4}-\d{2}-\d{2})(?:[T ].*)?$/;
/** The day before the month: 3.4.2026, 03/04/2026. */
const DAY_FIRST = /^(\d{1,2})[./](\d{1,2})[./](\d{4})(?:[ ,].*)?$/;

/**
 * A day as tables write it: ISO 8601, also with a time behind it, or with the day before the month.
 * @returns the ISO 8601 calendar date; null for what is no such day
 * @example writtenDay("3.4.2026 10:15") // "2026-04-03"
 */
export function writtenDay(text: string): string | null {
  const iso = ISO.exec(text)?.[1];
  const [, day, month, year] = DAY_FIRST.exec(text) ?? [];
  const date = iso ?? (year && `${year}-${month.padStart(2, "0")}-${day.padStart(2, "0")}`);
  try {
    return date ? isoDate(parseIsoDate(date)) : null;
  } catch {
    return null;
  }
}
