import { parseIsoDate } from "./zone";

const DAY_MS = 86_400_000;
const LONG = new Intl.DateTimeFormat("en-GB", {
  timeZone: "UTC",
  weekday: "long",
  day: "numeric",
  month: "long",
});
const SHORT = new Intl.DateTimeFormat("en-GB", { timeZone: "UTC", day: "numeric", month: "short" });
const WITH_YEAR = new Intl.DateTimeFormat("en-GB", {
  timeZone: "UTC",
  weekday: "long",
  day: "numeric",
  month: "long",
  year: "numeric",
});

/**
 * "Thursday 3 December", with its year where that is another one than now.
 * @param day ISO 8601 calendar date
 * @param today the same, of the day on which it is read; null: the year is always said
 */
export function dayWords(day: string, today: string | null): string {
  const same = today !== null && day.slice(0, 4) === today.slice(0, 4);
  return (same ? LONG : WITH_YEAR).format(parseIsoDate(day) * DAY_MS).replace(",", "");
}

/** "3 Dec". @param day ISO 8601 calendar date */
export const shortDate = (day: string): string => SHORT.format(parseIsoDate(day) * DAY_MS);

const MONTH = new Intl.DateTimeFormat("en-GB", {
  timeZone: "UTC",
  month: "long",
  year: "numeric",
});

/** "November 2026". @param day any of the month, ISO 8601 calendar date */
export const monthWords = (day: string): string => MONTH.format(parseIsoDate(day) * DAY_MS);
