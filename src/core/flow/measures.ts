import { DAY, type Days, type Instant } from "@/core/calendar/instant";
import { daysTouched } from "@/core/calendar/zone";
import { isInProgress } from "@/core/workflow/workflow";
import { clockOf, finishedAt, type FlowHistory, type Period } from "./history";

/*
 * The four measures of flow, as the open Kanban guide defines them:
 * WIP, the items started but not finished; throughput, the items finished per unit of time; work item age, the time
 * from start until now; cycle time, the time from start to finish.
 */

/** WIP: items started and not finished at an instant. */
export function workInProgressAt(histories: readonly FlowHistory[], at: Instant): FlowHistory[] {
  return histories.filter((h) =>
    h.stays.some((s) => isInProgress(s.kind) && s.from <= at && (s.to === null || s.to > at)),
  );
}

/** A finished item with its cycle time. */
export interface Finished {
  history: FlowHistory;
  at: Instant;
  /** Calendar days touched between start and finish, in the zone; an item that starts and finishes on one day took 1. */
  days: Days;
  /** Exact time in progress, in days of 24 hours. */
  elapsed: Days;
}

/** The items whose finish falls in the period, in the order they finished, with their cycle times. */
export function finishedIn(histories: readonly FlowHistory[], period: Period, zone: string): Finished[] {
  const finished: Finished[] = [];
  for (const history of histories) {
    const at = finishedAt(history);
    if (at === null || at < period.from || at >= period.to) continue;
    const clock = clockOf(history);
    let elapsed = 0;
    for (const { from, to } of clock) elapsed += (to ?? at) - from;
    finished.push({ history, at, days: daysTouched(clock, zone, at), elapsed: elapsed / DAY });
  }
  return finished.sort((a, b) => a.at - b.at);
}

/** The instants at which items were started (first commitment or a later one) in the period. */
export function startedIn(histories: readonly FlowHistory[], period: Period): { history: FlowHistory; at: Instant }[] {
  const started: { history: FlowHistory; at: Instant }[] = [];
  for (const history of histories)
    for (const { from } of clockOf(history)) if (from >= period.from && from < period.to) started.push({ history, at: from });
  return started.sort((a, b) => a.at - b.at);
}

/** Work item age in calendar days: all its time in progress so far, today included. 0 for what was never started. */
export function ageInDays(history: FlowHistory, zone: string, now: Instant): Days {
  return daysTouched(clockOf(history), zone, now);
}
