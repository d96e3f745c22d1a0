/** A day as it is written: "2026-11-28". */
export type Day = string;

const DAY_MS = 86_400_000;
const MONTHS = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];

const utc = (day: Day): number => Date.parse(`${day}T00:00:00Z`);
const dayOf = (ms: number): Day => new Date(ms).toISOString().slice(0, 10);

/** Whether a text names a day that exists: "2026-02-30" does not. */
export const isDay = (text: string): boolean =>
  /^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(utc(text)) && dayOf(utc(text)) === text;

/** The day so many days later, or earlier. @example addDays("2026-02-28", 1) === "2026-03-01" */
export const addDays = (day: Day, days: number): Day => dayOf(utc(day) + days * DAY_MS);

/**
 * The day so many months later, or earlier; the last of the month where the month is too short.
 * @example addMonths("2026-01-31", 1) === "2026-02-28"
 */
export function addMonths(day: Day, months: number): Day {
  const [year, month, date] = day.split("-").map(Number);
  const last = new Date(Date.UTC(year, month - 1 + months + 1, 0)).getUTCDate();
  return dayOf(Date.UTC(year, month - 1 + months, Math.min(date, last)));
}

/** Monday is 0 and Sunday 6, as ISO 8601 orders the days of a week. */
export const weekdayOf = (day: Day): number => (new Date(utc(day)).getUTCDay() + 6) % 7;

/** The weeks that touch a day's month, each from Monday to Sunday, with the days of its neighbours. */
export function weeksOf(day: Day): Day[][] {
  const first = `${day.slice(0, 7)}-01`;
  const monday = addDays(first, -weekdayOf(first));
  const next = addMonths(first, 1);
  const weeks: Day[][] = [];
  for (let start = monday; start < next; start = addDays(start, 7))
    weeks.push(Array.from({ length: 7 }, (_, i) => addDays(start, i)));
  return weeks;
}

/**
 * The day that a person typed: "2026-11-28", "28.11.2026", "28 Nov 2026", or "28 nov" for the next
 * one from today on. @returns null when it is none
 */
export function readDay(text: string, today: Day): Day | null {
  const typed = text.trim().toLowerCase();
  if (isDay(typed)) return typed;
  const made = (year: number, month: number, date: number): Day | null => {
    const day = [String(year).padStart(4, "0"), month, date]
      .map((n) => String(n).padStart(2, "0"))
      .join("-");
    return isDay(day) ? day : null;
  };
  const dotted = /^(\d{1,2})\.\s?(\d{1,2})\.\s?(\d{4})$/.exec(typed);
  if (dotted) return made(Number(dotted[3]), Number(dotted[2]), Number(dotted[1]));
  const worded = /^(\d{1,2})\.?\s+([a-z]{3})[a-z]*\.?(?:\s+(\d{4}))?$/.exec(typed);
  if (!worded || !MONTHS.includes(worded[2])) return null;
  const month = MONTHS.indexOf(worded[2]) + 1;
  if (worded[3]) return made(Number(worded[3]), month, Number(worded[1]));
  const year = Number(today.slice(0, 4));
  // The 29th of February comes within eight years.
  for (let ahead = 0; ahead <= 8; ahead++) {
    const day = made(year + ahead, month, Number(worded[1]));
    if (day && day >= today) return day;
  }
  return null;
}

/**
 * The time of day that a person typed, as "HH:MM": "9", "9:30", "0930" and "17.15" are all read.
 * @returns null when it is none
 */
export function readTime(text: string): string | null {
  const read = /^(\d{1,2})(?:[:.]?(\d{2}))?$/.exec(text.trim());
  if (!read) return null;
  const [hours, minutes] = [Number(read[1]), Number(read[2] ?? 0)];
  if (hours > 23 || minutes > 59) return null;
  return `${String(hours).padStart(2, "0")}:${String(minutes).padStart(2, "0")}`;
}
