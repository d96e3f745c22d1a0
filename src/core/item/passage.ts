import { cutAt, lengthOf, type Instant } from "@/core/calendar/instant";
import { isInProgress, type Outcome, type StateId, type StateKind } from "@/core/workflow/state";
import type { ItemEvent } from "./event";
import type { ItemSnapshot } from "./fields";
import { endsReady, type RecordedStay } from "./snapshot";
import { isDelivered, passage, type FinishKind } from "./start-finish";

/**
 * A stay with how long of it, as far as it is over, the item was blocked, and was ready for its next
 * step, in milliseconds. It never is both.
 */
export interface MeasuredStay extends RecordedStay {
  blockedMs: number;
  readyMs: number;
}

/**
 * A start or a finish of an item, as flow measures read it: `seq` is the number of the event that
 * made it, times are in milliseconds.
 */
export type FlowPassage =
  | { seq: number; at: Instant; kind: "start" }
  | {
      seq: number;
      at: Instant;
      kind: FinishKind;
      outcome: Outcome | null;
      /** The whole clock until then. */
      elapsedMs: number;
      /** The part of it since the finish before, if there was one. */
      sinceLastMs: number;
      /** Of a first delivery: how long the item had been in each state in progress. */
      times: StateTimes | null;
    };

/** A passage with the project that the item was in then. */
export type RecordedPassage = FlowPassage & { projectId: string };

/** Time spent in states, and how long of it the item was blocked or ready, in milliseconds. */
export type StateTimes = Record<
  StateId,
  { kind: StateKind; spentMs: number; blockedMs: number; readyMs: number }
>;

/** How long an item was in each state in progress, by stays that are over. */
export function stateTimes(stays: readonly MeasuredStay[]): StateTimes {
  const times: StateTimes = {};
  for (const { stateId, kind, from, to, blockedMs, readyMs } of stays) {
    if (to === null || !isInProgress(kind)) continue;
    const sum = (times[stateId] ??= { kind, spentMs: 0, blockedMs: 0, readyMs: 0 });
    sum.spentMs += to - from;
    sum.blockedMs += blockedMs;
    sum.readyMs += readyMs;
  }
  return times;
}

/** The passages that a whole run of stays amounts to, oldest first. */
export function passagesOf(stays: readonly MeasuredStay[]): RecordedPassage[] {
  const passages: RecordedPassage[] = [];
  let before: MeasuredStay | null = null;
  let delivered = false;
  let elapsedMs = 0;
  let lastMs = 0;
  for (const [i, stay] of stays.entries()) {
    const { enteredSeq: seq, from: at, outcome, projectId } = stay;
    if (before && isInProgress(before.kind)) elapsedMs += at - before.from;
    const step = passage(before?.kind ?? null, stay.kind);
    if (step === "start") passages.push({ projectId, seq, at, kind: "start" });
    if (step === "finish") {
      const kind = delivered ? "again" : isDelivered(outcome) ? "delivered" : "stopped";
      const times = kind === "delivered" ? stateTimes(stays.slice(0, i)) : null;
      const sinceLastMs = elapsedMs - lastMs;
      passages.push({ projectId, seq, at, kind, outcome, elapsedMs, sinceLastMs, times });
      lastMs = elapsedMs;
      delivered ||= isDelivered(outcome);
    }
    before = stay;
  }
  return passages;
}

/**
 * The passage that the events of one command make, without the history before them: null where they
 * make none. What the finish before it took, and the times in states, are for whoever knows them.
 * @param before null where the events make the item
 * @param after the item after all of them
 */
export function passageIn(
  before: ItemSnapshot | null,
  events: readonly ItemEvent[],
  after: ItemSnapshot,
): FlowPassage | null {
  for (const event of events) {
    const { seq, at } = event;
    const step =
      event.kind === "created"
        ? passage(null, event.new.stateKind)
        : event.kind === "moved"
          ? passage(event.old.kind, event.new.kind)
          : null;
    if (step === "start") return { seq, at, kind: "start" };
    if (step !== "finish") continue;
    const earlier = before?.deliveredAt ?? null;
    const kind = earlier !== null ? "again" : after.deliveredAt === at ? "delivered" : "stopped";
    const elapsedMs = lengthOf(cutAt(after.clock, at), at);
    return {
      seq,
      at,
      kind,
      outcome: after.outcome,
      elapsedMs,
      sinceLastMs: elapsedMs,
      times: null,
    };
  }
  return null;
}

/**
 * How long an event ends a blocked stretch of the stay that is open before it, in milliseconds: by
 * the last blocker's lifting, or by leaving the state while blocked.
 */
export function blockedEndedBy(before: ItemSnapshot, event: ItemEvent): number {
  if (before.blockedSince === null) return 0;
  const ends =
    event.kind === "moved" ||
    event.kind === "withdrawn" ||
    (event.kind === "lifted" &&
      before.openBlockers.every((blocker) => blocker.id === event.old.blockId));
  return ends ? event.at - Math.max(before.blockedSince, before.enteredStateAt) : 0;
}

/**
 * How long an event ends a stretch of the stay that is open before it in which the item was ready,
 * in milliseconds.
 */
export const readyEndedBy = (before: ItemSnapshot, event: ItemEvent): number =>
  before.readySince !== null && endsReady(event)
    ? event.at - Math.max(before.readySince, before.enteredStateAt)
    : 0;
