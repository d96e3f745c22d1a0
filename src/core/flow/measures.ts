import { cutAt, DAY, type Days, type Instant } from "@/core/calendar/instant";
import { daysTouched } from "@/core/calendar/zone";
import type { FinishKind } from "@/core/item/start-finish";
import type { Outcome } from "@/core/workflow/state";
import type { Departure } from "./facts";

/*
 * The four measures of flow, as the open Kanban guide defines them: WIP, the items started but not
 * finished; throughput, the items finished per unit of time; work item age, the time from start
 * until now; cycle time, the time from start to finish. What is a start and a finish is said in
 * `core/item/start-finish.ts`.
 */

/** A finish with the time that it took. */
export interface Finished {
  itemId: string;
  key: string;
  title: string;
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

/** Departures with their times, by the calendar of a zone. */
export const timed = (departures: readonly Departure[], zone: string): Finished[] =>
  // Each by its name: taken over as a whole, a hundred thousand of them take a second.
  departures.map(({ itemId, key, title, at, kind, outcome, clock, elapsedMs, sinceLastMs }) => ({
    itemId,
    key,
    title,
    at,
    kind,
    outcome,
    days: daysTouched(cutAt(clock, at), zone, at),
    elapsed: elapsedMs / DAY,
    sinceLast: sinceLastMs / DAY,
  }));

/**
 * The finished work among some finishes: the first delivery of each item, with its cycle time.
 * Reopening it later does not change that.
 */
export const delivered = (finishes: readonly Finished[]): Finished[] =>
  finishes.filter((f) => f.kind === "delivered");
