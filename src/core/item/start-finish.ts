import { cutAt, type Instant, type Interval } from "@/core/calendar/instant";
import { isInProgress, type Outcome, type StateKind } from "@/core/workflow/state";

/*
 * The one place that says what starts and what finishes an item. A start is each entering of what
 * is in progress, from unstarted or finished; a finish is each entering of finished from what is in
 * progress. What was undone is neither.
 */

/**
 * What a step from one kind of state to another means for an item's clock; null where it runs on or
 * stands still as before.
 */
export function passage(
  from: StateKind | null,
  to: StateKind,
): "start" | "finish" | "put back" | null {
  const ran = from !== null && isInProgress(from);
  if (isInProgress(to)) return ran ? null : "start";
  if (!ran) return null;
  return to === "finished" ? "finish" : "put back";
}

/** Whether an end is a delivery. A process that asks for no outcome knows no other end. */
export const isDelivered = (outcome: Outcome | null): boolean =>
  outcome === null || outcome === "delivered";

/**
 * What a finish counts as: the first that delivers, an end otherwise before any did, or one more
 * after that.
 */
export type FinishKind = "delivered" | "stopped" | "again";

export interface Finish {
  at: Instant;
  outcome: Outcome | null;
  kind: FinishKind;
}

/** A stay as far as starts and finishes go: the outcome is the one that was named on entering. */
export interface TimedStay extends Interval {
  kind: StateKind;
  outcome: Outcome | null;
}

/**
 * Each finish in a run of stays, oldest first. Moves among finished states finish nothing again.
 */
export function finishesOf(stays: readonly TimedStay[]): Finish[] {
  const finishes: Finish[] = [];
  let before: StateKind | null = null;
  let delivered = false;
  for (const { kind, from: at, outcome } of stays) {
    if (kind === "finished" && passage(before, kind) === "finish") {
      finishes.push({
        at,
        outcome,
        kind: delivered ? "again" : isDelivered(outcome) ? "delivered" : "stopped",
      });
      delivered ||= isDelivered(outcome);
    }
    before = kind;
  }
  return finishes;
}

/**
 * When an item was first started, when it first was delivered, and when it finished for the last
 * time.
 */
export interface Milestones {
  firstStartedAt: Instant | null;
  /**
   * Never changes once it is set, whatever happens later; only undoing that finish takes it back.
   */
  deliveredAt: Instant | null;
  /** Null while it is not finished, and where it was closed without having been in progress. */
  finishedAt: Instant | null;
}

export const NO_MILESTONES: Milestones = {
  firstStartedAt: null,
  deliveredAt: null,
  finishedAt: null,
};

/** A step from one kind of state to another, with the outcome as it is on entering. */
export interface Step {
  from: StateKind | null;
  to: StateKind;
  outcome: Outcome | null;
  at: Instant;
}

/** The milestones after a step. */
export function milestonesAfter(before: Milestones, { from, to, outcome, at }: Step): Milestones {
  const step = passage(from, to);
  return {
    firstStartedAt: before.firstStartedAt ?? (step === "start" ? at : null),
    deliveredAt: before.deliveredAt ?? (step === "finish" && isDelivered(outcome) ? at : null),
    finishedAt: step === "finish" ? at : to === "finished" ? before.finishedAt : null,
  };
}

/**
 * Whether an outcome is named for the state just entered, in the same step but after the move, as
 * follow-ups do. What a move takes away from the state that it leaves comes before it, and is no
 * outcome.
 */
export const namesOutcome = (enteredAt: Instant, at: Instant, outcome: Outcome | null): boolean =>
  outcome !== null && at === enteredAt;

/** The milestones when the step that finished an item names an outcome after its move. */
export function milestonesNaming(before: Milestones, outcome: Outcome, at: Instant): Milestones {
  if (before.finishedAt !== at) return before;
  if (isDelivered(outcome)) return { ...before, deliveredAt: before.deliveredAt ?? at };
  return before.deliveredAt === at ? { ...before, deliveredAt: null } : before;
}

/**
 * The clock that an item's days are counted by: of what is finished, up to its first delivery;
 * otherwise the whole of it so far.
 */
export const countedClock = ({
  clock,
  stateKind,
  deliveredAt,
}: {
  clock: readonly Interval[];
  stateKind: StateKind;
  deliveredAt: Instant | null;
}): readonly Interval[] =>
  stateKind === "finished" && deliveredAt !== null ? cutAt(clock, deliveredAt) : clock;

/** Whether an item's latest finish is a later one than its first delivery. */
export const finishedAgain = ({
  deliveredAt,
  finishedAt,
}: Pick<Milestones, "deliveredAt" | "finishedAt">): boolean =>
  deliveredAt !== null && finishedAt !== null && finishedAt > deliveredAt;
