import type { Days } from "@/core/calendar/instant";
import { ascending, quantile } from "@/core/flow/quantile";
import { seededRandom, type Random } from "./random";

/**
 * How far down a backlog a team gets, by its own past. Each trial goes on from tomorrow with whole
 * past weeks, drawn at random and with replacement (the bootstrap of B. Efron, "Bootstrap methods",
 * The Annals of Statistics 7 (1979), 1-26), weekday by weekday.
 */

/** How many items that had come from the backlog were delivered on each of seven days in a row. */
export type PastWeek = readonly number[];

export interface ReachFacts {
  /** Whole weeks that end yesterday, the oldest first: each begins on the weekday of today. */
  weeks: readonly PastWeek[];
  /** Items in progress: they are finished before the first row of the backlog is. */
  ahead: number;
  /** How many days the delivered items of those weeks took from commitment to finish. */
  took: readonly Days[];
}

/** Two ways to be sure: in 85 of 100 trials, and in every other one. */
export const SURENESS = { sure: 0.85, even: 0.5 } as const;
export type Sureness = keyof typeof SURENESS;

/**
 * How many rows of the backlog are finished by the end of a day, counted from the first: place 0 is
 * today. Never falling, and never more sure than even.
 */
export type Reach = Readonly<Record<Sureness, readonly number[]>>;

/** With less than this nothing is foretold. */
export const LEAST_WEEKS = 8;
export const LEAST_FINISHED = 20;

const TRIALS = 10_000;
/** So many days are looked ahead, where nothing else is said. */
export const HORIZON = 364;

/** Whether there is enough past to foretell from. */
export const isEnough = ({ weeks, took }: Pick<ReachFacts, "weeks" | "took">): boolean =>
  weeks.length >= LEAST_WEEKS && took.length >= LEAST_FINISHED;

/**
 * How far down the backlog a team gets on each day to come. Nothing is finished sooner than its kind
 * takes: until 85 % (50 %) of those delivered would be through, no row counts.
 * @param rows the length of the backlog: beyond it nothing is counted
 * @param seed the same gives the same
 * @param horizon so many days are looked ahead
 */
export function forecastReach(
  { weeks, ahead, took }: ReachFacts,
  {
    rows,
    seed,
    trials = TRIALS,
    horizon = HORIZON,
  }: { rows: number; seed: number; trials?: number; horizon?: number },
): Reach {
  const days = ascending(took);
  const soonest = (how: Sureness) => (quantile(days, SURENESS[how]) ?? Infinity) - 1;
  const [soonestSure, soonestEven] = [soonest("sure"), soonest("even")];
  const reach = { sure: [0], even: [0] };
  const rowsOf = (delivered: number) => Math.max(0, delivered - ahead);
  simulateDays(weeks, { most: ahead + rows, seed, trials, horizon }, (day, atLeast) => {
    reach.sure.push(day < soonestSure ? 0 : rowsOf(atLeast(SURENESS.sure * trials)));
    reach.even.push(day < soonestEven ? 0 : rowsOf(atLeast(SURENESS.even * trials)));
  });
  return reach;
}

/**
 * Runs all trials side by side, a day at a time.
 * @param most of more than so many deliveries nobody asks
 * @param onDay is told of each day from tomorrow on; `atLeast` says how much was delivered by its end
 *   in at least so many trials
 */
function simulateDays(
  weeks: readonly PastWeek[],
  { most, seed, trials, horizon }: { most: number; seed: number; trials: number; horizon: number },
  onDay: (day: number, atLeast: (wanted: number) => number) => void,
): void {
  const daily = Uint32Array.from(weeks.flat());
  const random = seededRandom(seed);
  const delivered = new Uint32Array(trials);
  const drawn = new Uint32Array(trials);
  const counts = new Uint32Array(most + 1);
  // Today is nearly over: of the first week that is drawn the days from tomorrow on count.
  drawWeeks(drawn, random, weeks.length);
  let largest = 0;
  for (let day = 1; day <= horizon; day++) {
    const weekday = day % 7;
    if (weekday === 0) drawWeeks(drawn, random, weeks.length);
    counts.fill(0, 0, largest + 1);
    for (let trial = 0; trial < trials; trial++) {
      let now = delivered[trial] + daily[drawn[trial] + weekday];
      if (now > most) now = most;
      if (now > largest) largest = now;
      delivered[trial] = now;
      counts[now]++;
    }
    onDay(day, reachedIn(counts, largest));
  }
}

function drawWeeks(drawn: Uint32Array, random: Random, weeks: number): void {
  for (let trial = 0; trial < drawn.length; trial++) drawn[trial] = random.index(weeks) * 7;
}

/** @param counts how many trials have delivered so much, up to the largest of all */
const reachedIn = (counts: Uint32Array, largest: number) => (wanted: number) => {
  let found = 0;
  for (let n = largest; n > 0; n--) {
    found += counts[n];
    if (found >= wanted) return n;
  }
  return 0;
};

/**
 * The day on which a row of the backlog will be finished, in days from today.
 * @param row from 1
 * @returns null where that lies beyond what is looked ahead
 */
export function dayOfRow(reach: Reach, row: number, how: Sureness): number | null {
  const reached = reach[how];
  let low = 0;
  let high = reached.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (reached[middle] < row) low = middle + 1;
    else high = middle;
  }
  return low < reached.length ? low : null;
}

/** How many rows are finished by the end of a day. @param day in days from today; before today none */
export const rowsBy = (reach: Reach, day: number, how: Sureness): number =>
  day < 0 ? 0 : reach[how][Math.min(day, reach[how].length - 1)];
