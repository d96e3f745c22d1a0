import { countFinished, type FinishedGroup } from "./finished";
import type { StateId } from "@/core/workflow/state";

/** How many items, and the sum of what is added up of them. */
export interface Tally {
  items: number;
  amount: number;
}

/** Counts items and adds up what each has of something. */
export const tallyOf = <T>(items: readonly T[], amountOf: (item: T) => number | null): Tally => ({
  items: items.length,
  amount: items.reduce((sum, item) => sum + (amountOf(item) ?? 0), 0),
});

/** The same of finished items that are counted in groups, of some states. */
export const tallyOfGroups = (
  groups: readonly FinishedGroup[],
  stateIds: readonly StateId[],
): Tally => ({
  items: countFinished(groups, stateIds),
  amount: groups
    .filter((group) => stateIds.includes(group.stateId))
    .reduce((sum, group) => sum + group.amount, 0),
});

/** What two that have nothing in common come to together. */
export const bothTallies = (a: Tally, b: Tally): Tally => ({
  items: a.items + b.items,
  amount: a.amount + b.amount,
});
