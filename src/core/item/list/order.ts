import { foldCase } from "@/core/formats/fold-case";
import {
  factOf,
  type AskedAt,
  type AskedItem,
  type FactName,
  type FactValue,
} from "@/core/condition/facts";
import { optionsOf, type Vocabulary } from "@/core/condition/vocabulary";
import type { ListQuery } from "./query";

/** What two items are compared by; null stands behind everything, whichever way a list is sorted. */
export type SortKey = string | number | null;

/**
 * Where values stand: choices in the order in which they are offered, what is offered no more
 * behind them; no before yes.
 */
export function sortKeyOf(fact: FactName, value: FactValue, vocabulary: Vocabulary): SortKey {
  if (value === null) return null;
  const { kind } = factOf(fact);
  if (kind === "flag") return value === true ? 1 : 0;
  if (kind === "text") return foldCase(value as string);
  if (kind !== "choice") return value as string | number;
  const options = optionsOf(fact, vocabulary);
  const at = options.findIndex((o) => o.id === value);
  return at < 0 ? options.length : at;
}

/** Two keys in rising order, null last. */
export function compareKeys(a: SortKey, b: SortKey, descending = false): number {
  if (a === null || b === null) return Number(a === null) - Number(b === null);
  const rising = typeof a === "string" ? compareCodePoints(a, b as string) : a - (b as number);
  return descending ? -rising : rising;
}

/** By code points, not by the halves of which JavaScript makes the later ones. */
export function compareCodePoints(a: string, b: string): number {
  const [as, bs] = [Array.from(a), Array.from(b)];
  for (let i = 0; i < Math.min(as.length, bs.length); i++) {
    const apart = as[i].codePointAt(0)! - bs[i].codePointAt(0)!;
    if (apart !== 0) return apart;
  }
  return as.length - bs.length;
}

/**
 * How two items stand to each other in a list: by what it is sorted by, then by rank, then by id.
 */
export function compareInList(
  { sort }: Pick<ListQuery, "sort">,
  vocabulary: Vocabulary,
  at: AskedAt,
): (a: AskedItem, b: AskedItem) => number {
  const key = (fact: FactName, asked: AskedItem) =>
    sortKeyOf(fact, factOf(fact).of(asked, at), vocabulary);
  return (a, b) => {
    for (const { fact, descending } of sort) {
      const apart = compareKeys(key(fact, a), key(fact, b), descending);
      if (apart !== 0) return apart;
    }
    return compareKeys(a.item.rank, b.item.rank) || compareKeys(a.item.id, b.item.id);
  };
}
