import type { DayNumber, Days, Instant } from "@/core/calendar/instant";
import type { StateId, StateKind } from "@/core/workflow/workflow";
import { cumulativeFlow } from "./cumulative-flow";
import { expectationKept, type Expectation, type ExpectationKept } from "./expectation";
import type { FlowHistory, Period } from "./history";
import { littlesLaw, type LittlesLaw } from "./littles-law";
import { ageInDays, finishedIn, workInProgressAt } from "./measures";
import { ascending, quantile } from "./quantile";
import { throughputByWeek, type WeekOfThroughput } from "./throughput";
import { flowTimes, type FlowTimes } from "./time-in-state";

export interface Percentiles {
  p50: Days | null;
  p85: Days | null;
  p95: Days | null;
}

/** Everything the Learn page shows, ready to be sent to a browser (plain objects and arrays only). */
export interface FlowReport {
  period: Period;
  cumulative: { days: DayNumber[]; counts: Record<StateId, number[]> };
  finished: { itemId: string; key: string; title: string; at: Instant; days: Days; elapsed: Days }[];
  percentiles: Percentiles;
  expectation: Expectation;
  kept: ExpectationKept;
  throughput: WeekOfThroughput[];
  ageing: { itemId: string; key: string; title: string; stateId: StateId; kind: StateKind; age: Days; blocked: boolean }[];
  times: FlowTimes;
  little: LittlesLaw;
}

/** The 50th, 85th and 95th percentile of cycle times in days (quantile type 1: days that occurred). */
export function percentiles(cycleDays: Iterable<Days>): Percentiles {
  const sorted = ascending(cycleDays);
  return { p50: quantile(sorted, 0.5), p85: quantile(sorted, 0.85), p95: quantile(sorted, 0.95) };
}

/** All flow measures of some histories over a period, with `now` as the instant that ages reach to. */
export function flowReport(
  histories: readonly FlowHistory[],
  period: Period,
  expectation: Expectation,
  zone: string,
  now: Instant,
): FlowReport {
  const finished = finishedIn(histories, period, zone);
  const days = finished.map((f) => f.days);
  const cumulative = cumulativeFlow(histories, period, zone);
  return {
    period,
    cumulative: { days: cumulative.days, counts: Object.fromEntries(cumulative.counts) },
    finished: finished.map((f) => ({
      itemId: f.history.id,
      key: f.history.key,
      title: f.history.title,
      at: f.at,
      days: f.days,
      elapsed: f.elapsed,
    })),
    percentiles: percentiles(days),
    expectation,
    kept: expectationKept(days, expectation),
    throughput: throughputByWeek(finished, period, zone),
    ageing: workInProgressAt(histories, now).map((h) => {
      const here = h.stays.at(-1)!;
      return {
        itemId: h.id,
        key: h.key,
        title: h.title,
        stateId: here.stateId,
        kind: here.kind,
        age: ageInDays(h, zone, now),
        blocked: h.blocks.some((b) => b.to === null),
      };
    }),
    times: flowTimes(finished.map((f) => f.history), now),
    little: littlesLaw(histories, period, zone, finished),
  };
}
