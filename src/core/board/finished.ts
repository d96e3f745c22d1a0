import type { Days, Instant } from "@/core/calendar/instant";
import { daysTouched } from "@/core/calendar/zone";
import type { ClassOfService } from "@/core/item/fields";
import { countedClock } from "@/core/item/start-finish";
import type { StateId } from "@/core/workflow/state";
import type { Card } from "./card";

/** How long a finished item stays on the board. */
export const FINISHED_DAYS_SHOWN = 14;

/** Of each finished state, how many cards a board has before anybody asks for more. */
export const FINISHED_CARDS_SENT = 20;

/**
 * Finished items of a board by what its columns and lanes tell apart. They are counted here, whether
 * the board has their cards or not.
 */
export interface FinishedGroup {
  stateId: StateId;
  classOfService: ClassOfService;
  assigneeId: string | null;
  items: number;
  /** Of these, those that were not closed before anybody had begun. */
  finished: number;
  /** Of those whose last finish was their first delivery: the days each took, fewest first. */
  tookDays: Days[];
  /** The sum of the number that is added up on the board. */
  amount: number;
}

/** What tells how long a finished item took. */
export type FinishedTimes = Pick<Card, "stateKind" | "clock" | "deliveredAt" | "finishedAt">;

/** What tells in which group a finished item is counted. */
export type FinishedItem = FinishedTimes & Pick<Card, "stateId" | "classOfService" | "assigneeId">;

/** How items are counted: in whose days, when, and what of each is added up. */
export interface Counting<T> {
  /** The project's zone, whose days are counted. */
  zone: string;
  now: Instant;
  amountOf: (item: T) => number | null;
}

/**
 * The days that those of some finished items took whose last finish was their first delivery;
 * what was finished again or ended otherwise says nothing about the expectation.
 * @param zone the project's, whose days are counted
 */
export const deliveredInDays = (
  items: readonly FinishedTimes[],
  zone: string,
  now: Instant,
): Days[] =>
  items
    .filter((item) => item.deliveredAt !== null && item.deliveredAt === item.finishedAt)
    .map((item) => daysTouched(countedClock(item), zone, now));

type Named = Pick<FinishedGroup, "stateId" | "classOfService" | "assigneeId">;

const nameOf = ({ stateId, classOfService, assigneeId }: Named): string =>
  JSON.stringify([stateId, classOfService, assigneeId]);

/** Counts finished items by what a board tells apart. */
export function finishedGroups<T extends FinishedItem>(
  items: readonly T[],
  { zone, now, amountOf }: Counting<T>,
): FinishedGroup[] {
  const groups = new Map<string, T[]>();
  for (const item of items) {
    const name = nameOf(item);
    const group = groups.get(name);
    if (group) group.push(item);
    else groups.set(name, [item]);
  }
  return [...groups.values()].map((group) => ({
    stateId: group[0].stateId,
    classOfService: group[0].classOfService,
    assigneeId: group[0].assigneeId,
    items: group.length,
    finished: group.filter((item) => item.finishedAt !== null).length,
    tookDays: deliveredInDays(group, zone, now).sort((a, b) => a - b),
    amount: group.reduce((sum, item) => sum + (amountOf(item) ?? 0), 0),
  }));
}

/** Groups that were counted apart, as one each. */
export function joinedGroups(groups: readonly FinishedGroup[]): FinishedGroup[] {
  const byName = new Map<string, FinishedGroup[]>();
  for (const group of groups) {
    const same = byName.get(nameOf(group));
    if (same) same.push(group);
    else byName.set(nameOf(group), [group]);
  }
  return [...byName.values()].map((same) => ({
    ...same[0],
    items: same.reduce((sum, { items }) => sum + items, 0),
    finished: same.reduce((sum, { finished }) => sum + finished, 0),
    tookDays: same.flatMap(({ tookDays }) => tookDays).sort((a, b) => a - b),
    amount: same.reduce((sum, { amount }) => sum + amount, 0),
  }));
}

/** The days without some of them, each as often as it is there. */
function daysWithout(days: readonly Days[], gone: readonly Days[]): Days[] {
  const left = [...days];
  for (const day of gone) {
    const at = left.indexOf(day);
    if (at >= 0) left.splice(at, 1);
  }
  return left;
}

const parted = (a: FinishedGroup, b: FinishedGroup): FinishedGroup => ({
  ...a,
  items: a.items - b.items,
  finished: a.finished - b.finished,
  tookDays: daysWithout(a.tookDays, b.tookDays),
  amount: a.amount - b.amount,
});

/**
 * The groups after a card changed that was counted among them before, is now, or both.
 * @param before null: it was not counted
 * @param after null: it is not counted any more
 */
export function countedAgain<T extends FinishedItem>(
  groups: readonly FinishedGroup[],
  before: T | null,
  after: T | null,
  counting: Counting<T>,
): FinishedGroup[] {
  const byName = new Map(groups.map((group) => [nameOf(group), group]));
  const [gone] = finishedGroups(before ? [before] : [], counting);
  const [come] = finishedGroups(after ? [after] : [], counting);
  const holding = gone && byName.get(nameOf(gone));
  if (holding) byName.set(nameOf(gone), parted(holding, gone));
  if (come) {
    const joining = byName.get(nameOf(come));
    byName.set(nameOf(come), joining ? joinedGroups([joining, come])[0] : come);
  }
  return [...byName.values()].filter((group) => group.items > 0);
}

/** How many items some groups hold that are in some states. */
export const countFinished = (
  groups: readonly FinishedGroup[],
  stateIds: readonly StateId[],
): number =>
  groups.filter((g) => stateIds.includes(g.stateId)).reduce((sum, g) => sum + g.items, 0);
