/** A seeded source of random numbers: the same seed gives the same run on every machine. */
export interface Random {
  /** Uniform in [0, 1). */
  next(): number;
  /** Exponentially distributed with the given mean. */
  exponential(mean: number): number;
  /** Log-normally distributed with the given median and the standard deviation of its logarithm. */
  logNormal(median: number, sigma: number): number;
  /** A whole number from 0 to `below − 1`. */
  index(below: number): number;
  /** One of the values. @throws RangeError when there is none */
  pick<T>(values: readonly T[]): T;
  /** True with the given probability. */
  chance(probability: number): boolean;
}

/**
 * The generator "mulberry32" (Tommy Ettinger's 32-bit mixing generator, public domain): one 32-bit
 * state, period 2³². Good enough for simulation runs of some millions of draws; not for secrets.
 */
export function seededRandom(seed: number): Random {
  let state = seed >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  const normal = () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next());
  return {
    next,
    exponential: (mean) => -mean * Math.log(1 - next()),
    logNormal: (median, sigma) => median * Math.exp(sigma * normal()),
    index: (below) => Math.floor(next() * below),
    pick: (values) => {
      if (values.length === 0) throw new RangeError("nothing to pick from");
      return values[Math.floor(next() * values.length)];
    },
    chance: (probability) => next() < probability,
  };
}
