import type { Zigzag, ZigzagSegment } from "./zigzag";

/** How the small line of an item runs for a while. */
export const SMALL_LEVELS = ["high", "low", "blocked", "off"] as const;
export type SmallLevel = (typeof SMALL_LEVELS)[number];

/** A stretch of the small line: how it runs, and for which share of the whole. */
export type SmallStretch = readonly [level: SmallLevel, share: number];

/** Shorter stretches than this share are still to be seen. */
const LEAST_SHARE = 0.03;

const levelOf = ({ blocked, level }: ZigzagSegment): SmallLevel => (blocked ? "blocked" : level);

/**
 * An item's line, as small as a card has room for: stretches that run alike are one, and none is too
 * thin to be seen. The shares add up to 1.
 * @example smallZigzag(zigzag({ stays, blocks: [] }, now)) // [["low", 0.3], ["high", 0.7]]
 */
export function smallZigzag({ segments }: Pick<Zigzag, "segments">): SmallStretch[] {
  const runs: { level: SmallLevel; days: number }[] = [];
  for (const segment of segments) {
    const level = levelOf(segment);
    const last = runs.at(-1);
    if (last?.level === level) last.days += segment.days;
    else runs.push({ level, days: segment.days });
  }
  const total = runs.reduce((sum, { days }) => sum + days, 0);
  if (total === 0) return [];
  const shares = runs.map(({ days }) => Math.max(LEAST_SHARE, days / total));
  const drawn = shares.reduce((sum, share) => sum + share, 0);
  return runs.map(({ level }, i) => [level, Math.round((shares[i] / drawn) * 1000) / 1000]);
}
