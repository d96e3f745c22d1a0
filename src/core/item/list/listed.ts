import { factOf, type FactName } from "@/core/condition/facts";

/** What stands beside an item, not at it. */
const UNREAD: readonly FactName[] = ["everIn", "links"];
/** Facts of which a list gives the values: those that stand at the item itself. */
export const isListed = (fact: FactName): boolean => !UNREAD.includes(fact);

/** So many fields are counted side by side at most. */
export const MOST_COUNTED_FIELDS = 6;

/** Facts whose values can be counted: those that are few enough to be told apart. */
export const isCounted = (fact: FactName): boolean =>
  isListed(fact) && factOf(fact).kind !== "text";
