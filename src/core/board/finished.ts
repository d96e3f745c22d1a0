import type { Days, Instant } from "@/core/calendar/instant";
import { daysTouched } from "@/core/calendar/zone";
import { countedClock } from "@/core/item/start-finish";
import type { StateId } from "@/core/workflow/state";
import type { Card } from "./card";

/** How long a finished item stays on the board. */
export const FINISHED_DAYS_SHOWN = 14;

/** Of each finished state, how many cards a board has before anybody asks for more. */
export const FINISHED_CARDS_SENT = 20;

/** Finished items of a state that a board counts and whose cards it does not have. */
export interface FinishedRest {
  stateId: StateId;
  /** Expedite items travel in a lane of their own. */
  expedite: boolean;
  items: number;
  /** Of these, those that were not closed before anybody had begun. */
  finished: number;
  /** Of those whose last finish was their first delivery: the days each took, fewest first. */
  tookDays: Days[];
}

/** What tells how long a finished item took. */
export type FinishedTimes = Pick<
  Card,
  "stateId" | "stateKind" | "classOfService" | "clock" | "deliveredAt" | "finishedAt"
>;

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

/** Sums up finished items whose cards are not sent, by what a board tells apart. */
export function restOf(
  items: readonly FinishedTimes[],
  zone: string,
  now: Instant,
): FinishedRest[] {
  const groups = new Map<string, FinishedTimes[]>();
  for (const item of items) {
    const key = `${item.stateId} ${item.classOfService === "expedite"}`;
    const group = groups.get(key);
    if (group) group.push(item);
    else groups.set(key, [item]);
  }
  return [...groups.values()].map((group) => ({
    stateId: group[0].stateId,
    expedite: group[0].classOfService === "expedite",
    items: group.length,
    finished: group.filter((item) => item.finishedAt !== null).length,
    tookDays: deliveredInDays(group, zone, now).sort((a, b) => a - b),
  }));
}

/** How many items the rests hold that are in some states. */
export const countRest = (
  rests: readonly FinishedRest[],
  stateIds: readonly StateId[],
  expedite?: boolean,
): number =>
  rests
    .filter((r) => stateIds.includes(r.stateId))
    .filter((r) => expedite === undefined || r.expedite === expedite)
    .reduce((sum, r) => sum + r.items, 0);
