import { addDays, weekdayOf, type Day } from "./month";
import { isoDate, parseIsoDate, weekStart } from "./zone";

/*
 * Days on which something comes again, by a rule of RFC 5545 (3.3.10), as far as whole days go.
 * Packages that follow a rule from one occurrence to the next never come back from one that has no
 * next one; here each day of a stretch is held against the rule, so that it always ends.
 */

export const FREQUENCIES = ["DAILY", "WEEKLY", "MONTHLY", "YEARLY"] as const;
export type Frequency = (typeof FREQUENCIES)[number];

/** A rule by which whole days come again. */
export interface DayRule {
  frequency: Frequency;
  /** Every so many days, weeks, months or years. */
  interval: number;
  /** So many at most, the first one counted. */
  count: number | null;
  /** The last day on which one may be. */
  until: Day | null;
  /** 1 is January. */
  months: readonly number[];
  /** Of the month; below nothing: from its end. */
  monthDays: readonly number[];
  /** 0 is Monday; the how-manieth of the month or the year, from its end below nothing, or each. */
  weekdays: readonly { day: number; nth: number | null }[];
  /** Of those of one week, month or year only these; from the end below nothing. */
  positions: readonly number[];
}

/** No rule is followed further than so many days from its first one. */
const LONGEST_WALK = 150 * 366;

/**
 * The days of a stretch on which something is, that is for the first time on one day and comes again
 * by a rule. The first one is always one of them.
 * @param window both days belong to it
 */
export function daysOfRule(rule: DayRule, start: Day, window: { from: Day; to: Day }): Day[] {
  const days: Day[] = [];
  const first = parseIsoDate(start);
  const last = Math.min(parseIsoDate(window.to), first + LONGEST_WALK);
  const until = rule.until === null ? last : Math.min(last, parseIsoDate(rule.until));
  // Only where they are counted do those before the window matter.
  const from = rule.count === null ? Math.max(first, parseIsoDate(window.from)) : first;
  let left = rule.count ?? Infinity;
  for (let number = from; number <= until && left > 0; number++) {
    const day = isoDate(number);
    if (number !== first && !falls(rule, start, day)) continue;
    left -= 1;
    if (day >= window.from) days.push(day);
  }
  return days;
}

/** Whether a rule falls on a day. */
function falls(rule: DayRule, start: Day, day: Day): boolean {
  return inStep(rule, start, day) && fits(rule, start, day) && atPosition(rule, start, day);
}

const monthsOf = (day: Day): number => Number(day.slice(0, 4)) * 12 + Number(day.slice(5, 7)) - 1;
const yearOf = (day: Day): number => Number(day.slice(0, 4));
const monthOf = (day: Day): number => Number(day.slice(5, 7));
const dateOf = (day: Day): number => Number(day.slice(8));

/** Whether a day is in one of every so many weeks, months or years. */
function inStep({ frequency, interval }: DayRule, start: Day, day: Day): boolean {
  const steps = {
    DAILY: () => parseIsoDate(day) - parseIsoDate(start),
    WEEKLY: () => (weekStart(parseIsoDate(day)) - weekStart(parseIsoDate(start))) / 7,
    MONTHLY: () => monthsOf(day) - monthsOf(start),
    YEARLY: () => yearOf(day) - yearOf(start),
  }[frequency]();
  return steps % interval === 0;
}

/** Whether a day is what the parts of a rule say; what they leave open is as on the first day. */
function fits(rule: DayRule, start: Day, day: Day): boolean {
  const { frequency, months, monthDays, weekdays } = rule;
  if (months.length > 0 && !months.includes(monthOf(day))) return false;
  if (monthDays.length > 0 && !monthDays.some((one) => isMonthDay(day, one))) return false;
  if (weekdays.length > 0 && !weekdays.some((one) => isWeekday(rule, day, one))) return false;
  if (monthDays.length > 0 || weekdays.length > 0 || frequency === "DAILY") return true;
  if (frequency === "WEEKLY") return weekdayOf(day) === weekdayOf(start);
  if (dateOf(day) !== dateOf(start)) return false;
  return frequency === "MONTHLY" || months.length > 0 || monthOf(day) === monthOf(start);
}

const isMonthDay = (day: Day, wanted: number): boolean =>
  wanted > 0 ? dateOf(day) === wanted : dateOf(day) === daysInMonth(day) + wanted + 1;

const daysInMonth = (day: Day): number =>
  new Date(Date.UTC(yearOf(day), monthOf(day), 0)).getUTCDate();

function isWeekday(
  { frequency, months }: DayRule,
  day: Day,
  { day: wanted, nth }: DayRule["weekdays"][number],
): boolean {
  if (weekdayOf(day) !== wanted) return false;
  if (nth === null) return true;
  const ofYear = frequency === "YEARLY" && months.length === 0;
  const first = ofYear ? `${day.slice(0, 4)}-01-01` : `${day.slice(0, 7)}-01`;
  const length = ofYear
    ? parseIsoDate(`${yearOf(day) + 1}-01-01`) - parseIsoDate(first)
    : daysInMonth(day);
  const at = parseIsoDate(day) - parseIsoDate(first);
  return nth > 0 ? Math.floor(at / 7) + 1 === nth : Math.floor((length - 1 - at) / 7) + 1 === -nth;
}

/** Whether a day is one of those that a rule picks out of its week, month or year. */
function atPosition(rule: DayRule, start: Day, day: Day): boolean {
  if (rule.positions.length === 0) return true;
  const [from, to] = periodOf(rule.frequency, day);
  const all: Day[] = [];
  for (let one = from; one <= to; one = addDays(one, 1)) if (fits(rule, start, one)) all.push(one);
  const at = all.indexOf(day);
  return rule.positions.some((n) => (n > 0 ? n - 1 : all.length + n) === at);
}

function periodOf(frequency: Frequency, day: Day): [Day, Day] {
  if (frequency === "DAILY") return [day, day];
  if (frequency === "WEEKLY") {
    const monday = isoDate(weekStart(parseIsoDate(day)));
    return [monday, addDays(monday, 6)];
  }
  if (frequency === "YEARLY") return [`${day.slice(0, 4)}-01-01`, `${day.slice(0, 4)}-12-31`];
  const month = day.slice(0, 7);
  return [`${month}-01`, `${month}-${String(daysInMonth(day)).padStart(2, "0")}`];
}
