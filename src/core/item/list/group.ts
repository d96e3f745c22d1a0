import { dayNumber, isoDate, weekStart } from "@/core/calendar/zone";
import type { Condition } from "@/core/condition/condition";
import {
  factOf,
  type AskedAt,
  type AskedItem,
  type FactName,
  type FactValue,
} from "@/core/condition/facts";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { valueWords } from "./value-words";
import { sortKeyOf, type SortKey } from "./order";

/** Dates are not grouped day by day, but by how far off they are. */
export const DATE_BANDS = ["past", "today", "later this week", "next week", "later"] as const;
export type DateBand = (typeof DATE_BANDS)[number];

/** To the second: what lasts is grouped by stretches. */
const DURATIONS: readonly FactName[] = [
  "age",
  "daysInState",
  "daysSinceCreated",
  "daysBlocked",
  "daysReady",
];
/** Whether a fact tells how long something lasts. */
export const isDuration = (fact: FactName): boolean => DURATIONS.includes(fact);

/** Stretches of days, each up to where the next begins. */
export const DAY_BANDS = [
  { band: "less than a day", below: 1 },
  { band: "1 to 3 days", below: 3 },
  { band: "3 to 7 days", below: 7 },
  { band: "7 to 14 days", below: 14 },
  { band: "14 days and more", below: Infinity },
] as const;

/** The groups of a fact that is grouped by bands, in their order; null where each value is one. */
export const bandsOf = (fact: FactName): readonly string[] | null =>
  factOf(fact).kind === "date"
    ? DATE_BANDS
    : isDuration(fact)
      ? DAY_BANDS.map(({ band }) => band)
      : null;

/** The value that the items of a group share, as a text; null where they have none. */
export type GroupKey = string | null;

/** The first day of each band but the first, ISO 8601; weeks begin on Monday. */
export function bandStarts({ now, zone }: AskedAt): Record<Exclude<DateBand, "past">, string> {
  const today = dayNumber(now, zone);
  const monday = weekStart(today) + 7;
  return {
    today: isoDate(today),
    "later this week": isoDate(today + 1),
    "next week": isoDate(Math.max(monday, today + 1)),
    later: isoDate(monday + 7),
  };
}

function bandOf(date: string, at: AskedAt): DateBand {
  const starts = bandStarts(at);
  return (
    DATE_BANDS.slice(1).findLast((band) => date >= starts[band as keyof typeof starts]) ?? "past"
  );
}

/** The group that a value belongs to. */
export function groupKeyOf(fact: FactName, value: FactValue, at: AskedAt): GroupKey {
  if (value === null) return null;
  if (isDuration(fact)) return DAY_BANDS.find(({ below }) => (value as number) < below)!.band;
  return factOf(fact).kind === "date" ? bandOf(value as string, at) : String(value);
}

/** The group that an item belongs to. */
export const groupOf = (fact: FactName, asked: AskedItem, at: AskedAt): GroupKey =>
  groupKeyOf(fact, factOf(fact).of(asked, at), at);

/** Where a group stands among the others. */
export function groupSortKey(fact: FactName, key: GroupKey, vocabulary: Vocabulary): SortKey {
  if (key === null) return null;
  const { kind } = factOf(fact);
  const bands = bandsOf(fact);
  if (bands) return bands.indexOf(key);
  if (kind === "number") return Number(key);
  return sortKeyOf(fact, kind === "flag" ? key === "true" : key, vocabulary);
}

/** What a group is called. */
export function groupLabel(fact: FactName, key: GroupKey, vocabulary: Vocabulary): string {
  const { kind } = factOf(fact);
  if (key === null) return valueWords(fact, null, vocabulary);
  if (bandsOf(fact)) return key;
  const value = kind === "flag" ? key === "true" : kind === "number" ? Number(key) : key;
  return valueWords(fact, value, vocabulary);
}

/**
 * What the items of a group have in common, as a condition; null where that is a stretch of days,
 * which lies elsewhere tomorrow.
 */
export function groupMeaning(fact: FactName, key: GroupKey): Condition | null {
  if (bandsOf(fact)) return null;
  const compare = { kind: "compare", fact } as const;
  if (key === null) return { ...compare, op: "is empty", value: null };
  const { kind } = factOf(fact);
  const value = kind === "flag" ? key === "true" : kind === "number" ? Number(key) : key;
  return { ...compare, op: "is", value };
}
