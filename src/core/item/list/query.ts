import { z } from "zod";
import { factOf, isFactName, type FactName } from "@/core/condition/facts";

/*
 * A list of items: in which order, grouped by what, with which sums. Which items they are is said
 * by a condition and by who looks. The functions beside this file say what that means over items in
 * memory; the database answers the same.
 */

/** So much can be asked of one list. */
export const MOST_SORTS = 6;
export const MOST_SUMS = 20;

/** Between two anchors of a list stand so many rows. */
export const ANCHOR_EVERY = 1_000;

export interface Sort {
  fact: FactName;
  descending: boolean;
}

export interface ListQuery {
  /** The first decides first; what they leave equal stands by rank. */
  sort: readonly Sort[];
  /** One group for each value, or each stretch of days of a date. */
  group: FactName | null;
  /** Numbers to be added up, and dates of which the first and last are told. */
  sums: readonly FactName[];
}

/** Whether groups stand from the last to the first: a list that is sorted by what it is grouped by. */
export const groupsFall = ({ sort, group }: Pick<ListQuery, "sort" | "group">): boolean =>
  sort.some(({ fact, descending }) => fact === group && descending);

export const PLAIN_LIST: ListQuery = { sort: [], group: null, sums: [] };

/** Facts that a list can be sorted by: those with one value. */
export const isSortable = (fact: FactName): boolean => factOf(fact).kind !== "set";

/** Facts that a list can be grouped by: those whose values are few enough to be told apart. */
export const isGroupable = (fact: FactName): boolean =>
  !["set", "text"].includes(factOf(fact).kind);

/** Facts that can be summed up. */
export const isSummed = (fact: FactName): boolean => ["number", "date"].includes(factOf(fact).kind);

/** The name of a fact that fits a list, from outside. */
export const listedFact = (fits: (name: FactName) => boolean) =>
  z
    .string()
    .max(100)
    .transform((name, context) => {
      if (isFactName(name) && fits(name)) return name;
      context.addIssue({ code: "custom", message: `There is no such fact: ${name}.` });
      return z.NEVER;
    });

export const listQuerySchema = z.object({
  sort: z
    .array(z.object({ fact: listedFact(isSortable), descending: z.boolean().default(false) }))
    .max(MOST_SORTS)
    .default([]),
  group: listedFact(isGroupable).nullable().default(null),
  sums: z.array(listedFact(isSummed)).max(MOST_SUMS).default([]),
});

/** So many items are asked after by their ids at most. */
const MOST_NAMED = 500;

/** Some items by their ids; null: all of a list. */
export const namedItems = z.array(z.uuid()).max(MOST_NAMED).nullable().default(null);
