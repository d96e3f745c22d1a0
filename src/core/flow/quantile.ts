/**
 * Sample quantiles after Hyndman and Fan, "Sample quantiles in statistical packages", The American
 * Statistician 50 (1996), 361-365.
 *
 * - type 1: inverse of the empirical distribution; always one of the observed values. Charts and
 *   the expectation use
 *   it, because "85 % finished within 9 days" must be true of whole days that occurred.
 * - type 2: as type 1, but the mean of both neighbours at a jump.
 * - type 7: linear between order statistics, position (n − 1)p + 1.
 */
export type QuantileType = 1 | 2 | 7;

/**
 * The p-quantile of values that are sorted ascending.
 * @param p from 0 to 1
 * @returns null for no values
 * @throws RangeError when p is outside 0..1
 * @example quantile([1, 2, 3, 4], 0.5, 7) // 2.5
 */
export function quantile(
  sorted: ArrayLike<number>,
  p: number,
  type: QuantileType = 1,
): number | null {
  if (!(p >= 0 && p <= 1)) throw new RangeError(`a share from 0 to 1 is needed, not ${p}`);
  const n = sorted.length;
  if (n === 0) return null;
  if (type === 7) {
    const h = (n - 1) * p;
    const below = Math.floor(h);
    const above = Math.min(below + 1, n - 1);
    return sorted[below] + (h - below) * (sorted[above] - sorted[below]);
  }
  const np = n * p;
  // A product such as 0.1 × 30 may miss its whole number by a few units in the last place.
  const whole = Math.round(np);
  const atJump = Math.abs(np - whole) < 4 * Number.EPSILON * n;
  if (atJump) {
    const lower = sorted[Math.max(0, whole - 1)];
    return type === 2 ? (lower + sorted[Math.min(n - 1, whole)]) / 2 : lower;
  }
  return sorted[Math.min(n - 1, Math.ceil(np) - 1)];
}

/** The values sorted ascending, as `quantile` needs them. */
export function ascending(values: Iterable<number>): Float64Array {
  return Float64Array.from(values).sort();
}
