import fc from "fast-check";
import { seededRandom } from "@/core/forecast/random";
import {
  dayOfRow,
  forecastReach,
  HORIZON,
  isEnough,
  rowsBy,
  type PastWeek,
} from "@/core/forecast/reach";
import { chanceWithin, daysUntilAllEnd, survivalCurve } from "@/core/forecast/survival";
import { dueHere, placesOf, reachLines } from "@/core/plan/reach-lines";
import { runs } from "./setup/runs";

/** A week in which all was delivered on its fourth day. */
const week = (delivered: number): PastWeek => [0, 0, 0, delivered, 0, 0, 0];
const QUICK = Array.from({ length: 20 }, () => 1);

/** The binomial distribution function. */
function binomialAtMost(k: number, n: number, p: number): number {
  let sum = 0;
  let one = (1 - p) ** n;
  for (let i = 0; i <= k; i++) {
    sum += one;
    one *= ((n - i) / (i + 1)) * (p / (1 - p));
  }
  return sum;
}

describe("how far a backlog reaches", () => {
  test("is what every week delivers, from the day on which it does", () => {
    const facts = { weeks: [week(5), week(5), week(5)], ahead: 3, took: QUICK };
    const reach = forecastReach(facts, { rows: 40, seed: 1, trials: 50 });
    // Three in progress go first; the fourth day from today, then every seventh.
    expect([2, 3, 9, 10, 16, 17].map((day) => rowsBy(reach, day, "sure"))).toEqual([
      0, 2, 2, 7, 7, 12,
    ]);
    expect(reach.even).toEqual(reach.sure);
    expect(dayOfRow(reach, 2, "sure")).toBe(3);
    expect(dayOfRow(reach, 3, "sure")).toBe(10);
    expect(rowsBy(reach, HORIZON, "sure")).toBe(40);
    expect(dayOfRow(reach, 41, "sure")).toBeNull();
    expect(rowsBy(reach, -1, "even")).toBe(0);
  });

  test("the part of this week that is left counts with its own weekdays", () => {
    const facts = { weeks: [[4, 0, 0, 0, 0, 0, 1]], ahead: 0, took: QUICK };
    const { sure } = forecastReach(facts, { rows: 20, seed: 1, trials: 10 });
    // Today is over for the forecast: what today's weekday delivers comes in a week.
    expect(sure.slice(0, 9)).toEqual([0, 0, 0, 0, 0, 0, 1, 5, 5]);
  });

  test("of weeks that deliver one or nothing is the quantile of a binomial distribution", () => {
    const facts = { weeks: [week(1), week(0)], ahead: 0, took: QUICK };
    const reach = forecastReach(facts, { rows: 60, seed: 7 });
    for (const weeks of [4, 10, 21, 40]) {
      const day = 7 * weeks - 1;
      for (const [how, share] of [
        ["sure", 0.85],
        ["even", 0.5],
      ] as const) {
        const rows = rowsBy(reach, day, how);
        const atLeast = (n: number) => 1 - binomialAtMost(n - 1, weeks, 0.5);
        // Within four standard errors of ten thousand trials.
        const error = 4 * Math.sqrt((share * (1 - share)) / 10_000);
        expect(atLeast(rows)).toBeGreaterThan(share - error);
        expect(atLeast(rows + 1)).toBeLessThan(share + error);
      }
    }
  });

  test("the day of a row is the quantile of a negative binomial distribution", () => {
    const facts = { weeks: [week(1), week(0), week(0), week(0)], ahead: 0, took: QUICK };
    const reach = forecastReach(facts, { rows: 60, seed: 11 });
    for (const row of [1, 3, 6])
      for (const [how, share] of [
        ["sure", 0.85],
        ["even", 0.5],
      ] as const) {
        const weeks = (dayOfRow(reach, row, how)! + 4) / 7;
        expect(Number.isInteger(weeks)).toBe(true);
        /** That the row-th week which delivers is among the first so many. */
        const through = (n: number) => 1 - binomialAtMost(row - 1, n, 0.25);
        const error = 4 * Math.sqrt((share * (1 - share)) / 10_000);
        expect(through(weeks)).toBeGreaterThan(share - error);
        expect(through(weeks - 1)).toBeLessThan(share + error);
      }
  });

  test("no row is finished sooner than its kind takes", () => {
    const took = [...Array.from({ length: 8 }, () => 3), 20, 20];
    const reach = forecastReach({ weeks: [week(9)], ahead: 0, took }, { rows: 99, seed: 1 });
    expect(rowsBy(reach, 3, "even")).toBe(9);
    expect(rowsBy(reach, 18, "sure")).toBe(0);
    expect(rowsBy(reach, 19, "sure")).toBe(27);
  });

  test("never falls, is never more sure than even, and never longer than the backlog", () => {
    const weekly = fc.array(fc.nat(4), { minLength: 7, maxLength: 7 });
    const facts = fc.record({
      weeks: fc.array(weekly, { minLength: 1, maxLength: 12 }),
      ahead: fc.nat(9),
      took: fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 30 }),
    });
    fc.assert(
      fc.property(facts, fc.nat(30), fc.nat(), (given, rows, seed) => {
        const reach = forecastReach(given, { rows, seed, trials: 40, horizon: 60 });
        for (let day = 0; day <= 60; day++) {
          expect(reach.sure[day]).toBeLessThanOrEqual(reach.even[day]);
          expect(reach.even[day]).toBeLessThanOrEqual(rows);
          if (day > 0) expect(reach.sure[day]).toBeGreaterThanOrEqual(reach.sure[day - 1]);
        }
        expect(forecastReach(given, { rows, seed, trials: 40, horizon: 60 })).toEqual(reach);
      }),
      { numRuns: runs(40) },
    );
  });

  test("is foretold from eight weeks and twenty finished items on", () => {
    const weeks = (n: number) => Array.from({ length: n }, () => week(3));
    expect(isEnough({ weeks: weeks(8), took: QUICK })).toBe(true);
    expect(isEnough({ weeks: weeks(7), took: QUICK })).toBe(false);
    expect(isEnough({ weeks: weeks(8), took: QUICK.slice(1) })).toBe(false);
  });
});

describe("the lines across a backlog", () => {
  /** A row a day, from tomorrow on; half as many are sure. */
  const days = Array.from({ length: 40 }, (_, day) => day);
  const reach = { even: days, sure: days.map((day) => Math.floor(day / 2)) };
  const date = (inDays: number) => ({ id: "d", words: "a day", day: "2026-01-01", in: inDays });
  const placed = (counts: boolean[], hiddenAfter: number[], inDays = 4) =>
    reachLines(reach, [date(inDays)], { counts, hiddenAfter }).map(
      ({ how, after, hidden, beyond }) => [how, after, hidden, beyond],
    );
  const all = (n: number) => Array.from({ length: n }, () => true);

  test("stand behind as many rows as will be finished", () => {
    expect(placed(all(9), [])).toEqual([
      ["sure", 2, 0, false],
      ["even", 4, 0, false],
    ]);
    expect(placed(all(3), [])).toEqual([
      ["sure", 2, 0, false],
      ["even", 3, 0, true],
    ]);
    expect(placed(all(9), [], 0)).toEqual([
      ["sure", 0, 0, false],
      ["even", 0, 0, false],
    ]);
  });

  test("pass over what is of another level, and count what is hidden where it stands", () => {
    expect(placed([false, true, false, true, true], [])).toEqual([
      ["sure", 4, 0, false],
      ["even", 5, 0, true],
    ]);
    // Hidden ones stand before the first row, and between the second and the third.
    expect(placed(all(9), [0, 2])).toEqual([
      ["sure", 1, 1, false],
      ["even", 2, 2, false],
    ]);
    expect(placesOf([true, false, true, true], [0, 2])).toEqual([2, null, 4, 5]);
  });

  test("say of a due date whether it is kept where the item stands", () => {
    expect(dueHere(reach, 3, 6)).toBe("in time");
    expect(dueHere(reach, 3, 5)).toBe("at risk");
    expect(dueHere(reach, 3, 2)).toBe("too late");
    expect(dueHere(reach, 99, 39)).toBe("too late");
  });
});

test("what is called 85 % sure comes true so often, and an even chance every other time", () => {
  const random = seededRandom(20_260_301);
  /** Days on each of which up to three are delivered, more on two of seven. */
  const days = (n: number) =>
    Array.from({ length: n }, (_, i) =>
      [0.5, i % 7 < 2 ? 0.6 : 0.2, 0.1].reduce((sum, p) => sum + (random.chance(p) ? 1 : 0), 0),
    );
  const times = 400;
  const kept = { sure: 0, even: 0, more: 0 };
  for (let time = 0; time < times; time++) {
    const past = days(7 * 52);
    const weeks = Array.from({ length: 52 }, (_, i) => past.slice(7 * i, 7 * i + 7));
    const reach = forecastReach(
      { weeks, ahead: 2, took: QUICK },
      { rows: 99, seed: time, trials: 800, horizon: 27 },
    );
    // Days 1 to 27 go on from the second weekday.
    const came =
      days(28)
        .slice(1)
        .reduce((sum, n) => sum + n, 0) - 2;
    if (came >= rowsBy(reach, 27, "sure")) kept.sure += 1;
    if (came >= rowsBy(reach, 27, "even")) kept.even += 1;
    if (came >= rowsBy(reach, 27, "even") + 1) kept.more += 1;
  }
  const within = (share: number) => 3 * Math.sqrt((share * (1 - share)) / times);
  expect(kept.sure / times).toBeGreaterThan(0.85 - within(0.85));
  // Whole items come in steps: what is said is kept a little more often, by less than one item.
  expect(kept.sure / times).toBeLessThan(0.85 + within(0.85) + 0.06);
  expect(kept.even / times).toBeGreaterThan(0.5 - within(0.5));
  expect(kept.more / times).toBeLessThan(0.5 + within(0.5));
});

describe("the chance of one item by its age", () => {
  const lived = (...days: number[]) => days.map((each) => ({ days: each, ended: true }));
  const curve = survivalCurve([...lived(1, 2, 2, 4, 10), { days: 5, ended: false }]);

  test("is that of those which had lasted as long", () => {
    // One of six ends on its first day.
    expect(chanceWithin(curve, 1, 0)).toBeCloseTo(1 / 6);
    // Of the three that lasted into a third day, one has ended by the end of the fourth.
    expect(chanceWithin(curve, 3, 1)).toBeCloseTo(1 / 3);
    expect(chanceWithin(curve, 3, 7)).toBeCloseTo(1);
    expect(chanceWithin(curve, 11, 30)).toBeNull();
  });

  test("of several is the chance that all are through", () => {
    expect(daysUntilAllEnd(curve, [], { chance: 0.85, horizon: 9 })).toBe(0);
    expect(daysUntilAllEnd(curve, [1], { chance: 0.5, horizon: 9 })).toBe(1);
    // Half by the second day each is a quarter for both; five of ten days is more than half.
    expect(daysUntilAllEnd(curve, [1, 1], { chance: 0.4, horizon: 9 })).toBe(3);
    expect(daysUntilAllEnd(curve, [1, 11], { chance: 0.5, horizon: 9 })).toBeNull();
    expect(daysUntilAllEnd(curve, [1], { chance: 1, horizon: 3 })).toBeNull();
  });
});
