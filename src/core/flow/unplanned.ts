import type { Instant } from "@/core/calendar/instant";
import type { Origin } from "@/core/item/fields";

/** A piece of work as the share of unplanned work and the velocity see it. */
export interface FinishedWork {
  itemId: string;
  origin: Origin;
  /** In points; null where nobody has estimated. */
  estimate: number | null;
  finishedAt: Instant;
}

export interface UnplannedShare {
  /** Of the finished items, those that came in as an interruption. */
  unplanned: string[];
  finished: number;
  /** Null while nothing has finished. */
  share: number | null;
}

/** How much of what was finished was not planned, counted in items. */
export function unplannedShare(work: readonly FinishedWork[]): UnplannedShare {
  const unplanned = work.filter((w) => w.origin === "unplanned").map((w) => w.itemId);
  return {
    unplanned,
    finished: work.length,
    share: work.length === 0 ? null : unplanned.length / work.length,
  };
}

/**
 * The estimate finished in a sprint. Common practice, no source: a bug that is fixed at once as an
 * interruption is estimated 0, so that it does not distort velocity.
 * @param from, to the first instant of the sprint, and the first after it
 */
export function velocity(work: readonly FinishedWork[], from: Instant, to: Instant): number {
  return work
    .filter((w) => w.finishedAt >= from && w.finishedAt < to)
    .reduce((sum, w) => sum + (w.estimate ?? 0), 0);
}

/** Bugs that were reported when the release of what they came from was out, by that release. */
export function escapedByRelease(
  bugs: readonly { itemId: string; releaseId: string }[],
): Map<string, string[]> {
  const by = new Map<string, string[]>();
  for (const { itemId, releaseId } of bugs)
    by.set(releaseId, [...(by.get(releaseId) ?? []), itemId]);
  return by;
}
