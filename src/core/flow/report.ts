import type { Days, Instant } from "@/core/calendar/instant";
import type { StateId, StateKind } from "@/core/workflow/state";
import { cumulativeFlow, type CumulativeFlow } from "./cumulative-flow";
import { expectationKept, type Expectation, type ExpectationKept } from "./expectation";
import type { FlowFacts } from "./facts";
import type { Period } from "./period";
import { littlesLaw, type LittlesLaw } from "./littles-law";
import { ageOf, type Age } from "./age";
import { delivered, timed, type Finished } from "./measures";
import { ascending, quantile } from "./quantile";
import { throughputByWeek, type WeekOfThroughput } from "./throughput";
import { flowTimes, type FlowTimes } from "./time-in-state";

export interface Percentiles {
  p50: Days | null;
  p85: Days | null;
  p95: Days | null;
}

/** A finish as a row of the report. */
export type FinishedRow = Omit<Finished, "kind" | "sinceLast">;

const rowOf = ({ kind: _, sinceLast: _since, ...row }: Finished): FinishedRow => row;

/**
 * Everything the Learn page shows, ready to be sent to a browser (plain objects and arrays only).
 */
export interface FlowReport {
  period: Period;
  cumulative: CumulativeFlow;
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
  ageing: (Age & {
    itemId: string;
    key: string;
    title: string;
    stateId: StateId;
    kind: StateKind;
    blocked: boolean;
  })[];
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
 * All flow measures of a period from its facts, with `now` as the instant that ages reach to.
 */
export function flowReport(
  facts: FlowFacts,
  expectation: Expectation,
  zone: string,
  now: Instant,
): FlowReport {
  const { period } = facts;
  const departures = timed(facts.departures, zone);
  const ofKind = (kind: Finished["kind"]) => departures.filter((d) => d.kind === kind);
  const finished = delivered(departures);
  const days = finished.map((f) => f.days);
  return {
    period,
    cumulative: cumulativeFlow(facts),
    finished: finished.map(rowOf),
    stopped: ofKind("stopped").map(rowOf),
    again: ofKind("again").map(rowOf),
    percentiles: percentiles(days),
    expectation,
    kept: expectationKept(days, expectation),
    throughput: throughputByWeek(finished, period, zone),
    ageing: facts.running.map(({ clock, ...running }) => ({
      ...running,
      ...ageOf(clock, zone, now),
    })),
    times: flowTimes(facts.times, finished.length),
    little: littlesLaw(period, facts.inProgressMs, departures),
  };
}
