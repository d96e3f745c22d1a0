import { counted } from "@/core/formats/counted";
import type { Days } from "@/core/calendar/instant";

/**
 * A service level expectation: the share of items that is expected to finish within a number of
 * days.
 */
export interface Expectation {
  days: Days;
  /** From 0 to 1. */
  share: number;
}

export interface ExpectationKept {
  within: number;
  of: number;
  /** within ÷ of, null when nothing finished. */
  share: number | null;
  met: boolean | null;
}

/** How many of the cycle times kept to the expectation; a time equal to its days keeps it. */
export function expectationKept(
  cycleDays: readonly Days[],
  expectation: Expectation,
): ExpectationKept {
  const within = cycleDays.filter((days) => days <= expectation.days).length;
  const of = cycleDays.length;
  if (of === 0) return { within, of, share: null, met: null };
  return { within, of, share: within / of, met: within / of >= expectation.share };
}

/** "85 % within 9 days". */
export function expectationWords({ days, share }: Expectation): string {
  return `${Math.round(share * 100)} % within ${counted(days, "day")}`;
}
