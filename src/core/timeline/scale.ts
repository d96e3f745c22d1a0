import { addMonths, weekdayOf } from "@/core/calendar/month";
import type { DayNumber } from "@/core/calendar/instant";
import { isoDate, parseIsoDate } from "@/core/calendar/zone";
import { weekNumber } from "@/core/time/week";

/** How close a timeline is looked at; “fit” shows all of it at once. */
export const ZOOMS = ["week", "month", "quarter", "year", "fit"] as const;
export type Zoom = (typeof ZOOMS)[number];

/** A day is so many pixels wide. */
const DAY_WIDTH: Record<Exclude<Zoom, "fit">, number> = {
  week: 72,
  month: 26,
  quarter: 9.5,
  year: 3,
};
/** Narrower than this no day is drawn. */
const NARROWEST_DAY = 0.4;

/** From the first to the last day that is drawn; both belong to it. */
export interface Range {
  first: DayNumber;
  last: DayNumber;
}

/** So much room is kept before the first and behind the last day. */
const MARGIN = 0.04;

/**
 * The days that a timeline shows: all of its bars and today, in whole months.
 * @param spans of the bars, with what fades behind them
 */
export function rangeOf(
  spans: readonly { from: DayNumber; to: DayNumber }[],
  today: DayNumber,
): Range {
  let [first, last] = [today, today];
  for (const { from, to } of spans) {
    first = Math.min(first, from);
    last = Math.max(last, to);
  }
  const room = Math.max(7, Math.round((last - first) * MARGIN));
  const begin = `${isoDate(first - room).slice(0, 7)}-01`;
  const end = addMonths(`${isoDate(last + room).slice(0, 7)}-01`, 1);
  return { first: parseIsoDate(begin), last: parseIsoDate(end) - 1 };
}

/** How wide a day is drawn. @param width that there is for all of them, in pixels */
export function dayWidth(zoom: Zoom, { first, last }: Range, width: number): number {
  if (zoom !== "fit") return DAY_WIDTH[zoom];
  return Math.max(NARROWEST_DAY, width / (last - first + 1));
}

/** A line with a name on the axis. */
export interface Tick {
  day: DayNumber;
  label: string;
  /** Whether a larger stretch begins there: a month, or a year. */
  strong: boolean;
}

const MONTHS = [
  "January",
  "February",
  "March",
  "April",
  "May",
  "June",
  "July",
  "August",
  "September",
  "October",
  "November",
  "December",
];

/**
 * Where lines stand on the axis: at days, weeks, months or quarters, whichever are wide enough to be
 * named.
 */
export function ticksOf(range: Range, widthOfDay: number): Tick[] {
  if (widthOfDay >= 40) return dayTicks(range);
  if (widthOfDay >= 16) return weekTicks(range);
  return monthTicks(range, widthOfDay);
}

function dayTicks({ first, last }: Range): Tick[] {
  return Array.from({ length: last - first + 1 }, (_, i): Tick => {
    const day = first + i;
    const iso = isoDate(day);
    const date = Number(iso.slice(8));
    const month = MONTHS[Number(iso.slice(5, 7)) - 1];
    return { day, label: date === 1 ? `${month} 1` : String(date), strong: weekdayOf(iso) === 0 };
  });
}

function weekTicks({ first, last }: Range): Tick[] {
  const ticks: Tick[] = [];
  for (let day = first; day <= last; day++) {
    const iso = isoDate(day);
    if (weekdayOf(iso) !== 0) continue;
    const date = `${Number(iso.slice(8))} ${MONTHS[Number(iso.slice(5, 7)) - 1].slice(0, 3)}`;
    ticks.push({ day, label: `W${weekNumber(iso)}, ${date}`, strong: Number(iso.slice(8)) <= 7 });
  }
  return ticks;
}

/** So many months from one line to the next, so that their names have room. */
function monthTicks({ first, last }: Range, widthOfDay: number): Tick[] {
  const every = widthOfDay >= 2.4 ? 1 : widthOfDay >= 0.9 ? 3 : 12;
  const ticks: Tick[] = [];
  let day = `${isoDate(first).slice(0, 7)}-01`;
  for (; parseIsoDate(day) <= last; day = addMonths(day, 1)) {
    const month = Number(day.slice(5, 7)) - 1;
    if (month % every !== 0) continue;
    const year = month === 0 || ticks.length === 0 ? ` ${day.slice(0, 4)}` : "";
    const label = every === 12 ? day.slice(0, 4) : `${MONTHS[month]}${year}`;
    ticks.push({ day: parseIsoDate(day), label, strong: month === 0 });
  }
  return ticks;
}
