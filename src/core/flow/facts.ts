import type { DayNumber, Instant, Interval } from "@/core/calendar/instant";
import type { FinishKind } from "@/core/item/start-finish";
import type { Outcome, StateId, StateKind } from "@/core/workflow/state";
import type { Period } from "./period";

/** A finish in a period, with the clock as it stood then. */
export interface Departure {
  itemId: string;
  key: string;
  title: string;
  at: Instant;
  kind: FinishKind;
  outcome: Outcome | null;
  /** The whole clock of the item; what comes after the finish does not count. */
  clock: readonly Interval[];
  elapsedMs: number;
  sinceLastMs: number;
}

/** An item that is started and not finished now. */
export interface Running {
  itemId: string;
  key: string;
  title: string;
  stateId: StateId;
  kind: StateKind;
  clock: readonly Interval[];
  blocked: boolean;
}

/** How long the delivered items of a period were in a state, all of them together. */
export interface StateSum {
  stateId: StateId;
  kind: StateKind;
  /** Items that were ever in the state. */
  items: number;
  spentMs: number;
  blockedMs: number;
  /** Ready for the next step, and not pulled on. */
  readyMs: number;
}

/** Each state with how many items more than the day before were in it at the end of a day. */
export interface StateStep {
  stateId: StateId;
  /** From 0, the period's first day: there, all that were in it already. */
  day: number;
  change: number;
}

/**
 * What the measures of a period are made of, as the read model of the flow gives it: never more
 * than happened in the period, however long the project has been running.
 */
export interface FlowFacts {
  period: Period;
  /** The first day of the period, and how many it has. */
  firstDay: DayNumber;
  days: number;
  /** Every finish in the period, whatever its outcome, in the order of time. */
  departures: readonly Departure[];
  running: readonly Running[];
  /** Of the items that were first delivered in the period, until then. */
  times: readonly StateSum[];
  steps: readonly StateStep[];
  /** How long items were in progress within the period, all together, in milliseconds. */
  inProgressMs: number;
}
