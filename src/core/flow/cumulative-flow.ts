import type { DayNumber } from "@/core/calendar/instant";
import type { StateId } from "@/core/workflow/state";
import type { FlowFacts } from "./facts";

export interface CumulativeFlow {
  days: DayNumber[];
  /**
   * For each state, how many items were in it at the end of each day (at the end of the period for
   * its last day).
   */
  counts: Record<StateId, number[]>;
}

/**
 * The cumulative flow diagram: how many items were in each state at the end of each calendar day of
 * the period.
 */
export function cumulativeFlow({
  firstDay,
  days: length,
  steps,
}: Pick<FlowFacts, "firstDay" | "days" | "steps">): CumulativeFlow {
  const counts: Record<StateId, number[]> = {};
  for (const { stateId, day, change } of steps)
    (counts[stateId] ??= new Array<number>(length).fill(0))[day] += change;
  for (const series of Object.values(counts))
    for (let day = 1; day < length; day++) series[day] += series[day - 1];
  return { days: Array.from({ length }, (_, day) => firstDay + day), counts };
}
