import { DAY, type DayNumber, type Instant } from "@/core/calendar/instant";
import { dayNumber } from "@/core/calendar/zone";
import { isInProgress, type StateId } from "@/core/workflow/workflow";
import type { FlowHistory, Period } from "./history";

export interface CumulativeFlow {
  days: DayNumber[];
  /**
   * For each state, how many items were in it at the end of each day (at the end of the period for
   * its last day).
   */
  counts: Map<StateId, number[]>;
}

/**
 * The cumulative flow diagram: how many items were in each state at the end of each calendar day of
 * the period. Takes one pass over the stays, whatever the length of the period.
 */
export function cumulativeFlow(
  histories: readonly FlowHistory[],
  period: Period,
  zone: string,
): CumulativeFlow {
  const first = dayNumber(period.from, zone);
  const length = dayNumber(period.to - 1, zone) - first + 1;
  const changes = new Map<StateId, Int32Array>();
  for (const { stays } of histories)
    for (const { stateId, from, to } of stays) {
      if (from >= period.to) continue;
      let change = changes.get(stateId);
      if (!change) changes.set(stateId, (change = new Int32Array(length + 1)));
      const enters = Math.max(0, dayNumber(from, zone) - first);
      const leaves = to === null || to >= period.to ? length : dayNumber(to, zone) - first;
      if (leaves <= enters) continue;
      change[enters] += 1;
      change[leaves] -= 1;
    }
  const counts = new Map<StateId, number[]>();
  for (const [stateId, change] of changes) {
    let running = 0;
    counts.set(
      stateId,
      Array.from({ length }, (_, day) => (running += change[day])),
    );
  }
  return { days: Array.from({ length }, (_, day) => first + day), counts };
}

/** Who was in a state at the end of a day: the items behind a point of the diagram. */
export function inStateAt(
  histories: readonly FlowHistory[],
  stateId: StateId,
  at: Instant,
): FlowHistory[] {
  return histories.filter((h) =>
    h.stays.some((s) => s.stateId === stateId && s.from < at && (s.to === null || s.to >= at)),
  );
}

/**
 * The exact area between arrivals and departures, in item-days: how long items were in progress
 * within the period.
 */
export function areaInProgress(histories: readonly FlowHistory[], period: Period): number {
  let area = 0;
  for (const { stays } of histories)
    for (const stay of stays)
      if (isInProgress(stay.kind))
        area += Math.max(
          0,
          Math.min(stay.to ?? period.to, period.to) - Math.max(stay.from, period.from),
        );
  return area / DAY;
}
