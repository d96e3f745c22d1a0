import type { ColumnLimit } from "@/core/board/limit";
import type { LoadedLimit } from "../board/covering-limits";

/**
 * What is known of limits while errands go through the door one after the other, whose events are
 * stored later: limits that are read once, and what counts against them with what is not stored yet.
 */
export interface LimitBook {
  /** By the states and people that were asked about. */
  touching: Map<string, Promise<LoadedLimit[]>>;
  /** By project: the levels of its types. */
  levels: Map<string, Promise<ReadonlyMap<string, number>>>;
  /** The bounds of those that are locked; null where one is no more. */
  locked: Map<string, ColumnLimit | null>;
  /** What counts against a limit with all that was decided. */
  counts: Map<string, number>;
  /** How much of that is not stored yet. */
  unstored: Map<string, number>;
}

export const emptyLimitBook = (): LimitBook => ({
  touching: new Map(),
  levels: new Map(),
  locked: new Map(),
  counts: new Map(),
  unstored: new Map(),
});

/** Notes what something that was decided, and is not stored yet, counts for against a limit. */
export function noteWeight({ unstored, counts }: LimitBook, limitId: string, more: number): void {
  unstored.set(limitId, (unstored.get(limitId) ?? 0) + more);
  const counted = counts.get(limitId);
  if (counted !== undefined) counts.set(limitId, counted + more);
}
