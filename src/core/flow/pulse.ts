import type { Days, Instant } from "@/core/calendar/instant";
import { dayNumber, dayStart, weekStart } from "@/core/calendar/zone";
import { expectationKept, type Expectation, type ExpectationKept } from "./expectation";
import { lastWeeks, type FlowHistory } from "./history";
import { ageInDays, departuresIn, finishedIn, startedIn, workInProgressAt } from "./measures";
import { flowTimes } from "./time-in-state";

/** How long back "recently finished" reaches in the pulse strip. */
export const PULSE_WINDOW_WEEKS = 12;

/** A project's health in one line. Each figure carries the items behind it. */
export interface Pulse {
  inProgress: string[];
  oldest: { itemId: string; age: Days } | null;
  expectation: Expectation;
  kept: ExpectationKept & { itemIds: string[] };
  blocked: string[];
  arrivedThisWeek: string[];
  /** Every finish of the week, whatever its outcome. */
  departedThisWeek: string[];
  efficiency: number | null;
  recentlyFinished: string[];
}

/** The same measures as the charts, over the last twelve weeks and the running ISO week. */
export function pulse(
  histories: readonly FlowHistory[],
  expectation: Expectation,
  zone: string,
  now: Instant,
): Pulse {
  const inProgress = workInProgressAt(histories, now);
  const week = { from: dayStart(weekStart(dayNumber(now, zone)), zone), to: now + 1 };
  const recent = finishedIn(histories, lastWeeks(PULSE_WINDOW_WEEKS, zone, now), zone);
  let oldest: Pulse["oldest"] = null;
  for (const history of inProgress) {
    const age = ageInDays(history, zone, now);
    if (!oldest || age > oldest.age) oldest = { itemId: history.id, age };
  }
  return {
    inProgress: inProgress.map((h) => h.id),
    oldest,
    expectation,
    kept: {
      ...expectationKept(
        recent.map((f) => f.days),
        expectation,
      ),
      itemIds: recent.filter((f) => f.days > expectation.days).map((f) => f.history.id),
    },
    blocked: inProgress.filter((h) => h.blocks.some((b) => b.to === null)).map((h) => h.id),
    arrivedThisWeek: startedIn(histories, week).map((s) => s.history.id),
    departedThisWeek: departuresIn(histories, week, zone).map((d) => d.history.id),
    efficiency: flowTimes(
      recent.map((f) => f.history),
      now,
    ).efficiency,
    recentlyFinished: recent.map((f) => f.history.id),
  };
}
