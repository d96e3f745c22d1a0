import type { Instant } from "@/core/calendar/instant";
import { dayNumber, dayStart, weekStart } from "@/core/calendar/zone";
import { expectationKept, type Expectation, type ExpectationKept } from "./expectation";
import type { Running, StateSum } from "./facts";
import type { Period } from "./period";
import { ageOf, type Age } from "./age";
import type { Finished } from "./measures";
import { flowTimes } from "./time-in-state";

/** How long back "recently finished" reaches in the pulse strip. */
export const PULSE_WINDOW_WEEKS = 12;

/** A project's health in one line. Each figure carries the items behind it. */
export interface Pulse {
  inProgress: string[];
  oldest: (Age & { itemId: string }) | null;
  expectation: Expectation;
  kept: ExpectationKept & { itemIds: string[] };
  blocked: string[];
  arrivedThisWeek: string[];
  /** Every finish of the week, whatever its outcome. */
  departedThisWeek: string[];
  efficiency: number | null;
  recentlyFinished: string[];
}

/** What the pulse is made of. */
export interface PulseFacts {
  /** First deliveries of the last twelve weeks, and how long they were in each state. */
  recent: readonly Finished[];
  times: readonly StateSum[];
  running: readonly Running[];
  /** Ids of the items that started, and that finished, in the running week: each time once. */
  arrived: string[];
  departed: string[];
}

/** The same measures as the charts, over the last twelve weeks and the running ISO week. */
export function pulse(
  { recent, times, running, arrived, departed }: PulseFacts,
  expectation: Expectation,
  zone: string,
  now: Instant,
): Pulse {
  let oldest: Pulse["oldest"] = null;
  for (const item of running) {
    const age = ageOf(item.clock, zone, now);
    if (!oldest || age.age > oldest.age) oldest = { itemId: item.itemId, ...age };
  }
  const days = recent.map((f) => f.days);
  return {
    inProgress: running.map((r) => r.itemId),
    oldest,
    expectation,
    kept: {
      ...expectationKept(days, expectation),
      itemIds: recent.filter((f) => f.days > expectation.days).map((f) => f.itemId),
    },
    blocked: running.filter((r) => r.blocked).map((r) => r.itemId),
    arrivedThisWeek: arrived,
    departedThisWeek: departed,
    efficiency: flowTimes(times, recent.length).efficiency,
    recentlyFinished: recent.map((f) => f.itemId),
  };
}

/** The running ISO week by the calendar of a zone, as far as it has come. */
export const runningWeek = (zone: string, now: Instant): Period => ({
  from: dayStart(weekStart(dayNumber(now, zone)), zone),
  to: now + 1,
});
