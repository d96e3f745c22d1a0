import type { Instant } from "@/core/calendar/instant";
import type { Verdict } from "./verdict";

/** What came of a case the last time that it was tried for an item. */
export interface LastTried {
  verdict: Verdict | null;
  /** The version of the case that was tried. */
  version: number;
  startedAt: Instant;
  at: Instant;
}

/** Why a pass says nothing any more. */
export const STALE_WORDS = {
  rewritten: "the case was rewritten since",
  changed: "what it tests was changed since",
} as const;
export type Stale = keyof typeof STALE_WORDS;

/**
 * Why what was seen the last time says nothing any more: the case has a newer version, or more of the
 * item was merged after the run began and is deployed. Null where it still holds.
 * @param changedAt when the last of the item that is deployed anywhere was merged; null where nothing is
 */
export function staleOf(
  { version, startedAt }: Pick<LastTried, "version" | "startedAt">,
  { current, changedAt }: { current: number; changedAt: Instant | null },
): Stale | null {
  if (version < current) return "rewritten";
  return changedAt !== null && changedAt > startedAt ? "changed" : null;
}

/** How well an item is tested. */
export const TESTED = ["no case", "failed", "blocked", "not tried", "stale", "passed"] as const;
export type Tested = (typeof TESTED)[number];

/** What is known of a case of an item. */
export interface CaseTried {
  last: Pick<LastTried, "verdict"> | null;
  stale: Stale | null;
}

/**
 * How well an item is tested: by the worst that its cases came to. What failed counts also where it is
 * stale; what was never tried, or not to its end, comes before what is stale.
 */
export function testedOf(cases: readonly CaseTried[]): Tested {
  if (cases.length === 0) return "no case";
  const verdicts = cases.map(({ last }) => last?.verdict ?? null);
  if (verdicts.includes("failed")) return "failed";
  if (verdicts.includes("blocked")) return "blocked";
  if (verdicts.includes(null)) return "not tried";
  return cases.some(({ stale }) => stale !== null) ? "stale" : "passed";
}

export const TESTED_WORDS: Record<Tested, string> = {
  "no case": "no case tests it",
  failed: "failed its last test",
  blocked: "could not be tested",
  "not tried": "not tested yet",
  stale: "changed since it was tested",
  passed: "tested",
};
