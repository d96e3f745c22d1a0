import { z } from "zod";
import type { Instant } from "@/core/calendar/instant";
import { addDays } from "@/core/calendar/month";
import { conditionSchema, type Condition } from "@/core/condition/condition";
import {
  factOf,
  type AskedAt,
  type AskedItem,
  type FactName,
  type FactValue,
} from "@/core/condition/facts";
import { optionsOf, type Vocabulary } from "@/core/condition/vocabulary";
import { isAmount } from "../amount";
import {
  bandStarts,
  DATE_BANDS,
  DAY_BANDS,
  bandsOf,
  groupKeyOf,
  groupLabel,
  groupMeaning,
  groupSortKey,
  type DateBand,
  type GroupKey,
} from "./group";
import { compareKeys } from "./order";
import { isCounted, MOST_COUNTED_FIELDS } from "./listed";
import { listedFact } from "./query";
import { noneWords } from "./value-words";

/*
 * The values of a field with how many items of a list have each, and what these add up to. An item
 * with several labels is counted at each of them; dates and what lasts are counted by bands.
 */

/** So many values of one field are told; with more, those that most items have. */
export const MOST_VALUES = 300;

/** How many of the items of a list have a value, and what they add up to. */
export interface ValueCount {
  key: GroupKey;
  count: number;
  sum: number;
}

export interface CountedValue extends ValueCount {
  label: string;
}

/** The values of one field, in their order. */
export interface CountedField {
  fact: FactName;
  values: CountedValue[];
  /** So many others that fewer items have are left out. */
  more: number;
}

/** What the values of a field are counted over: a condition for each, as each leaves its own out. */
const counted = z.object({ fact: listedFact(isCounted), condition: conditionSchema });

export const countedBody = z.object({
  /** The board whose scope holds; null: the project's first where only what stands on it counts. */
  board: z.string().max(64).nullable().default(null),
  /** Whether only what stands in the columns of the board counts. */
  standing: z.boolean().default(false),
  /** What the list shows. */
  condition: conditionSchema,
  fields: z.array(counted).max(MOST_COUNTED_FIELDS),
  /** Conditions of which it is told how many of the list they are true of. */
  named: z.array(conditionSchema).max(40).default([]),
  /** What is added up. */
  sum: listedFact(isAmount).nullable().default(null),
});
export type CountedAsked = z.output<typeof countedBody>;

export interface CountedView {
  fields: CountedField[];
  /** Of each named condition. */
  named: number[];
  /** All that the list shows. */
  total: Omit<ValueCount, "key">;
  at: Instant;
}

/** The values that an item is counted at. */
export function countedAt(fact: FactName, asked: AskedItem, at: AskedAt): GroupKey[] {
  const value: FactValue = factOf(fact).of(asked, at);
  if (!Array.isArray(value)) return [groupKeyOf(fact, value, at)];
  return value.length === 0 ? [null] : [...new Set(value as readonly string[])];
}

/** Where so few values are offered, those that nothing has stand there too: "Lukas Pell, 0". */
const FEW_OFFERED = 12;

/** The values that are offered and that nothing has, where they are few. */
function unused(
  fact: FactName,
  counts: readonly ValueCount[],
  vocabulary: Vocabulary,
): ValueCount[] {
  const offered = optionsOf(fact, vocabulary).filter((option) => !option.past);
  if (offered.length > FEW_OFFERED) return [];
  const known = new Set(counts.map(({ key }) => key));
  return offered.flatMap(({ id }) => (known.has(id) ? [] : [{ key: id, count: 0, sum: 0 }]));
}

/**
 * The values in the order in which they are shown: what is offered in an order of its own, numbers
 * and bands in that, what says nothing behind them; people, teams and labels, nobody and none among
 * them, by how many items they have.
 */
export function countedField(
  fact: FactName,
  counts: readonly ValueCount[],
  vocabulary: Vocabulary,
): CountedField {
  const shown = [...counts, ...unused(fact, counts, vocabulary)]
    .sort((a, b) => b.count - a.count || compareKeys(a.key, b.key))
    .slice(0, MOST_VALUES);
  const place = ({ key, count }: ValueCount) =>
    isRanked(fact) ? key && groupSortKey(fact, key, vocabulary) : -count;
  const values = shown
    .map((value) => ({ ...value, label: valueLabel(fact, value.key, vocabulary) }))
    .sort(
      (a, b) =>
        compareKeys(place(a), place(b)) ||
        compareKeys(a.label, b.label) ||
        compareKeys(a.key, b.key),
    );
  return { fact, values, more: Math.max(0, counts.length - MOST_VALUES) };
}

/**
 * The values of a field as they are now, in the order in which they stood before: what is being
 * pointed at stays where it is. What is new stands behind them.
 */
export function asTheyStood(before: CountedField | undefined, now: CountedField): CountedField {
  if (before?.fact !== now.fact) return now;
  const stood = new Map(before.values.map(({ key }, at) => [key, at]));
  const place = ({ key }: CountedValue) => stood.get(key) ?? Infinity;
  return { ...now, values: now.values.toSorted((a, b) => compareKeys(place(a), place(b))) };
}

/** Whether the values of a fact have an order that says more than how many items each has. */
const isRanked = (fact: FactName): boolean => {
  const { kind, options } = factOf(fact);
  return kind === "set"
    ? false
    : options === null || !["people", "teams"].includes(options as string);
};

/** What a value is called: of a set what one of it is. */
function valueLabel(fact: FactName, key: GroupKey, vocabulary: Vocabulary): string {
  if (key === null) return noneWords(fact);
  if (factOf(fact).kind !== "set") return groupLabel(fact, key, vocabulary);
  return optionsOf(fact, vocabulary).find(({ id }) => id === key)?.label ?? key;
}

/** What the items that are counted at a value have in common, as a condition. */
export function valueMeaning(fact: FactName, key: GroupKey, at: AskedAt): Condition {
  const compare = { kind: "compare", fact } as const;
  const { kind } = factOf(fact);
  if (kind === "set")
    return key === null
      ? { ...compare, op: "counts at most", value: 0 }
      : { ...compare, op: "contains", value: key };
  if (key === null) return { ...compare, op: "is empty", value: null };
  if (!bandsOf(fact)) return groupMeaning(fact, key)!;
  return kind === "date" ? datesIn(fact, key as DateBand, at) : daysIn(fact, key);
}

/** The days of a band as they lie today. */
function datesIn(fact: FactName, band: DateBand, at: AskedAt): Condition {
  const compare = { kind: "compare", fact } as const;
  if (band === "past") return { ...compare, op: "less than", value: { day: 0 } };
  if (band === "today") return { ...compare, op: "is", value: { day: 0 } };
  const starts = bandStarts(at);
  const next = DATE_BANDS[DATE_BANDS.indexOf(band) + 1];
  const from: Condition = { ...compare, op: "at least", value: starts[band] };
  if (next === undefined) return from;
  const last = addDays(starts[next as keyof typeof starts], -1);
  return { kind: "all", of: [from, { ...compare, op: "at most", value: last }] };
}

function daysIn(fact: FactName, key: string): Condition {
  const compare = { kind: "compare", fact } as const;
  const at = DAY_BANDS.findIndex(({ band }) => band === key);
  const of: Condition[] = [];
  if (at > 0) of.push({ ...compare, op: "at least", value: DAY_BANDS[at - 1].below });
  const { below } = DAY_BANDS[at];
  if (below !== Infinity) of.push({ ...compare, op: "less than", value: below });
  return of.length === 1 ? of[0] : { kind: "all", of };
}
