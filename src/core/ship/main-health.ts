import type { Instant } from "@/core/calendar/instant";

/** A finished run of the checks of main. */
export interface MainRun {
  commit: string;
  passed: boolean;
  endedAt: Instant;
}

/** Whether main can be built on. */
export interface MainHealth {
  clean: boolean;
  /** Since when it is so without a break. */
  since: Instant;
  /** With which commit that began. */
  commit: string;
}

/**
 * Whether main is clean, since when, and with which commit that began: the first of the latest runs
 * that ended alike.
 * @param runs the latest first
 * @returns null where main was never checked
 */
export function mainHealth(runs: readonly MainRun[]): MainHealth | null {
  if (runs.length === 0) return null;
  const clean = runs[0].passed;
  const other = runs.findIndex(({ passed }) => passed !== clean);
  const first = runs[(other < 0 ? runs.length : other) - 1];
  return { clean, since: first.endedAt, commit: first.commit };
}

/** How main of a repository is, and with what that began. */
export interface MainState extends MainHealth {
  repository: string;
  /** The change that its commit came of; null where it came of none. */
  change: string | null;
  title: string;
  url: string | null;
}
