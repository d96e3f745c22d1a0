import type { DayNumber, Days, Instant } from "@/core/calendar/instant";
import type { Outcome, StateId, StateKind } from "@/core/workflow/workflow";
import { cumulativeFlow } from "./cumulative-flow";
import { expectationKept, type Expectation, type ExpectationKept } from "./expectation";
import type { FlowHistory, Period } from "./history";
import { littlesLaw, type LittlesLaw } from "./littles-law";
import { ageInDays, departuresIn, workInProgressAt, type Finished } from "./measures";
import { ascending, quantile } from "./quantile";
import { throughputByWeek, type WeekOfThroughput } from "./throughput";
import { flowTimes, type FlowTimes } from "./time-in-state";

export interface Percentiles {
  p50: Days | null;
  p85: Days | null;
  p95: Days | null;
}

/** A finish as a row of the report. */
export interface FinishedRow {
  itemId: string;
  key: string;
  title: string;
  at: Instant;
  days: Days;
  elapsed: Days;
  outcome: Outcome | null;
}

const rowOf = ({
  history: { id, key, title },
  at,
  days,
  elapsed,
  outcome,
}: Finished): FinishedRow => ({ itemId: id, key, title, at, days, elapsed, outcome });

/**
 * Everything the Learn page shows, ready to be sent to a browser (plain objects and arrays only).
 */
export interface FlowReport {
  period: Period;
  cumulative: { days: DayNumber[]; counts: Record<StateId, number[]> };
  /** First deliveries: what throughput, cycle time and expectation are about. */
  finished: FinishedRow[];
  /** What was started and ended otherwise, with the time it took. */
  stopped: FinishedRow[];
  /** What finished once more after its first delivery, with its whole clock. */
  again: FinishedRow[];
  percentiles: Percentiles;
  expectation: Expectation;
  kept: ExpectationKept;
  throughput: WeekOfThroughput[];
  ageing: {
    itemId: string;
    key: string;
    title: string;
    stateId: StateId;
    kind: StateKind;
    age: Days;
    blocked: boolean;
  }[];
  times: FlowTimes;
  little: LittlesLaw;
}

/**
 * The 50th, 85th and 95th percentile of cycle times in days (quantile type 1: days that occurred).
 */
export function percentiles(cycleDays: Iterable<Days>): Percentiles {
  const sorted = ascending(cycleDays);
  return { p50: quantile(sorted, 0.5), p85: quantile(sorted, 0.85), p95: quantile(sorted, 0.95) };
}

/**
 * All flow measures of some histories over a period, with `now` as the instant that ages reach to.
 */
export function flowReport(
  histories: readonly FlowHistory[],
  period: Period,
  expectation: Expectation,
  zone: string,
  now: Instant,
): FlowReport {
  const departures = departuresIn(histories, period, zone);
  const ofKind = (kind: Finished["kind"]) => departures.filter((d) => d.kind === kind);
  const finished = ofKind("delivered");
  const days = finished.map((f) => f.days);
  const cumulative = cumulativeFlow(histories, period, zone);
  return {
    period,
    cumulative: { days: cumulative.days, counts: Object.fromEntries(cumulative.counts) },
    finished: finished.map(rowOf),
    stopped: ofKind("stopped").map(rowOf),
    again: ofKind("again").map(rowOf),
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
    times: flowTimes(
      finished.map((f) => f.history),
      now,
    ),
    little: littlesLaw(histories, period, zone, departures),
  };
}
