import { cutAt, DAY, type Days, type Instant } from "@/core/calendar/instant";
import { daysTouched } from "@/core/calendar/zone";
import { finishesOf, type FinishKind } from "@/core/item/start-finish";
import { isInProgress, type Outcome } from "@/core/workflow/workflow";
import { clockOf, historyAt, type FlowHistory, type Period } from "./history";

/*
 * The four measures of flow, as the open Kanban guide defines them: WIP, the items started but not
 * finished; throughput, the items finished per unit of time; work item age, the time from start
 * until now; cycle time, the time from start to finish.
 */

/** WIP: items started and not finished at an instant. */
export function workInProgressAt(histories: readonly FlowHistory[], at: Instant): FlowHistory[] {
  return histories.filter((h) =>
    h.stays.some((s) => isInProgress(s.kind) && s.from <= at && (s.to === null || s.to > at)),
  );
}

/** A finish with the time that it took. */
export interface Finished {
  /** Its work as it stood at the finish; what comes after changes nothing about it. */
  history: FlowHistory;
  at: Instant;
  kind: FinishKind;
  outcome: Outcome | null;
  /**
   * Calendar days touched from the first start, in the zone; an item that starts and finishes on
   * one day took 1.
   */
  days: Days;
  /** Exact time in progress, in days of 24 hours. */
  elapsed: Days;
  /** The part of it since the finish before, if there was one. */
  sinceLast: Days;
}

/** Every finish in the period, in their order, whatever its outcome: the departures. */
export function departuresIn(
  histories: readonly FlowHistory[],
  period: Period,
  zone: string,
): Finished[] {
  const departures: Finished[] = [];
  for (const whole of histories) {
    let before = 0;
    for (const { at, kind, outcome } of finishesOf(whole.stays)) {
      if (at >= period.to) break;
      const clock = cutAt(clockOf(whole), at);
      const elapsed = clock.reduce((sum, { from, to }) => sum + to! - from, 0) / DAY;
      if (at >= period.from)
        departures.push({
          history: asItStood(whole, at),
          at,
          kind,
          outcome,
          days: daysTouched(clock, zone, at),
          elapsed,
          sinceLast: elapsed - before,
        });
      before = elapsed;
    }
  }
  return departures.sort((a, b) => a.at - b.at);
}

/** A history without what was in progress after a finish; most have nothing to leave out. */
const asItStood = (history: FlowHistory, at: Instant): FlowHistory =>
  history.stays.some((s) => s.from >= at && isInProgress(s.kind))
    ? historyAt(history, at)
    : history;

/**
 * The finished work of a period: the first delivery of each item, with its cycle time. Reopening it
 * later does not change that.
 */
export const finishedIn = (
  histories: readonly FlowHistory[],
  period: Period,
  zone: string,
): Finished[] => departuresIn(histories, period, zone).filter((d) => d.kind === "delivered");

/** The starts in the period: each entering of what is in progress, the first and any later one. */
export function startedIn(
  histories: readonly FlowHistory[],
  period: Period,
): { history: FlowHistory; at: Instant }[] {
  const started: { history: FlowHistory; at: Instant }[] = [];
  for (const history of histories)
    for (const { from } of clockOf(history))
      if (from >= period.from && from < period.to) started.push({ history, at: from });
  return started.sort((a, b) => a.at - b.at);
}

/**
 * Work item age in calendar days: its whole clock so far, today included. 0 for what was never
 * started.
 */
export function ageInDays(history: FlowHistory, zone: string, now: Instant): Days {
  return daysTouched(clockOf(history), zone, now);
}
