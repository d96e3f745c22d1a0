/** How what was promised about an item stands, the most pressing first. */
export const PROMISE_BANDS = ["missed", "at risk", "kept so far"] as const;
export type PromiseBand = (typeof PROMISE_BANDS)[number];

/**
 * The band of an item by how each promise about it stands, of which the worst decides: what is
 * missed stays missed; what was kept, is in time or stands still while the requester is asked is
 * kept so far.
 * @param promises null for one that is not owed
 * @returns null where none is owed
 */
export function promiseBand(
  promises: readonly ({ standing: string } | null)[],
): PromiseBand | null {
  const standings = promises.flatMap((state) => state?.standing ?? []);
  if (standings.length === 0) return null;
  return PROMISE_BANDS.find((band) => standings.includes(band)) ?? "kept so far";
}
