import type { DayNumber, Instant } from "@/core/calendar/instant";
import { dayStart } from "@/core/calendar/zone";
import type { TargetState } from "./service-target";

/** A promise that a verdict would break, or may break. */
export interface BrokenPromise {
  target: string;
  /** When what was promised is due, by the time that runs on. */
  dueAt: Instant;
  /** Whether it breaks for certain, or only if what is waited for takes longer. */
  certain: boolean;
}

/**
 * What parking a report does to the promise about it, whose time runs on meanwhile.
 * @param until the day on which it comes back; null where it waits for an item
 * @returns null where there is time enough, or where it is late already
 */
export function brokenByParking(
  promise: { target: string; state: TargetState } | null,
  until: DayNumber | null,
  zone: string,
): BrokenPromise | null {
  const dueAt = promise?.state.dueAt ?? null;
  if (promise === null || dueAt === null || promise.state.standing === "missed") return null;
  if (until === null) return { target: promise.target, dueAt, certain: false };
  return dayStart(until, zone) > dueAt ? { target: promise.target, dueAt, certain: true } : null;
}

/**
 * What putting an older report to an item does to the promise about the item: its time runs since
 * the first of its reports came.
 * @param before how that it is done stands now; null where nothing is promised
 * @param after how it would stand
 */
export function brokenByMerging(
  before: TargetState | null,
  after: { target: string; state: TargetState } | null,
): BrokenPromise | null {
  if (after === null || after.state.standing !== "missed" || after.state.dueAt === null)
    return null;
  if (before?.standing === "missed") return null;
  return { target: after.target, dueAt: after.state.dueAt, certain: true };
}
