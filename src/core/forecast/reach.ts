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

const WEEK = 7;

/**
 * Runs all trials side by side, a week at a time: what was delivered by the end of each of its days is
 * what was before it, with the days of the week that was drawn up to then.
 * @param most of more than so many deliveries nobody asks
 * @param onDay is told of each day from tomorrow on; `atLeast` says how much was delivered by its end
 *   in at least so many trials
 */
function simulateDays(
  weeks: readonly PastWeek[],
  { most, seed, trials, horizon }: { most: number; seed: number; trials: number; horizon: number },
  onDay: (day: number, atLeast: (wanted: number) => number) => void,
): void {
  const random = seededRandom(seed);
  const delivered = new Uint32Array(trials);
  const drawn = new Uint32Array(trials);
  // Today is nearly over: of the first week that is drawn the days from tomorrow on count.
  let upTo = uptoEachDay(weeks, 1);
  const busiest = Math.max(0, ...weeks.map((week) => week.reduce((sum, n) => sum + n, 0)));
  const counts = Array.from({ length: WEEK }, () => new Uint32Array(most + busiest + 1));
  let largest = 0;
  for (let first = 0; first <= horizon; first += WEEK) {
    if (first === WEEK) upTo = uptoEachDay(weeks, 0);
    for (const count of counts) count.fill(0, 0, largest + busiest + 1);
    drawWeeks(drawn, random, weeks.length);
    countWeek(delivered, drawn, upTo, counts);
    const before = largest;
    largest = settle(delivered, drawn, upTo, most);
    for (let weekday = first === 0 ? 1 : 0; weekday < WEEK; weekday++)
      if (first + weekday <= horizon)
        onDay(first + weekday, reachedIn(counts[weekday], { largest: before + busiest, most }));
  }
}

/** Of each week how much was delivered by the end of each of its days. @param from the first that counts */
function uptoEachDay(weeks: readonly PastWeek[], from: number): Uint32Array {
  const upTo = new Uint32Array(weeks.length * WEEK);
  weeks.forEach((week, w) => {
    let sum = 0;
    week.forEach((n, day) => {
      if (day >= from) sum += n;
      upTo[w * WEEK + day] = sum;
    });
  });
  return upTo;
}

/** Counts in how many trials how much was delivered by the end of each day of a week. */
function countWeek(
  delivered: Uint32Array,
  drawn: Uint32Array,
  upTo: Uint32Array,
  [a, b, c, d, e, f, g]: Uint32Array[],
): void {
  // Day by day by hand: the innermost of what a forecast does, some millions of times.
  for (let trial = 0; trial < delivered.length; trial++) {
    const before = delivered[trial];
    const week = drawn[trial];
    a[before + upTo[week]]++;
    b[before + upTo[week + 1]]++;
    c[before + upTo[week + 2]]++;
    d[before + upTo[week + 3]]++;
    e[before + upTo[week + 4]]++;
    f[before + upTo[week + 5]]++;
    g[before + upTo[week + 6]]++;
  }
}

/** Goes on to the end of a week. @returns the most that any trial has delivered */
function settle(
  delivered: Uint32Array,
  drawn: Uint32Array,
  upTo: Uint32Array,
  most: number,
): number {
  let largest = 0;
  for (let trial = 0; trial < delivered.length; trial++) {
    let now = delivered[trial] + upTo[drawn[trial] + WEEK - 1];
    if (now > most) now = most;
    if (now > largest) largest = now;
    delivered[trial] = now;
  }
  return largest;
}

function drawWeeks(drawn: Uint32Array, random: Random, weeks: number): void {
  for (let trial = 0; trial < drawn.length; trial++) drawn[trial] = random.index(weeks) * WEEK;
}

/** @param counts how many trials have delivered so much, up to the largest of all */
const reachedIn =
  (counts: Uint32Array, { largest, most }: { largest: number; most: number }) =>
  (wanted: number) => {
    let found = 0;
    for (let n = Math.min(largest, counts.length - 1); n > 0; n--) {
      found += counts[n];
      if (found >= wanted) return Math.min(n, most);
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
