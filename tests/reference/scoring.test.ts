import fc from "fast-check";
import {
  FIRST_MODEL,
  movesBetween,
  orderBy,
  scoreOf,
  scoringModelSchema,
  totalWeightedDelay,
  weightedShortestFirst,
  type Job,
  type Scored,
  type ScoringModel,
} from "@/core/intake/scoring";
import { runs } from "@tests/core/setup/runs";

/*
 * W. E. Smith, "Various optimizers for single-stage production", Naval Research Logistics Quarterly
 * 3 (1956): the order of weight ÷ duration minimises the total weighted completion time. Held
 * against all permutations. Common practice, no source: a value lost of 5,000 a week over 8 weeks
 * is a cost of delay of 40,000.
 */

function permutations<T>(list: readonly T[]): T[][] {
  return list.length < 2
    ? [[...list]]
    : list.flatMap((x, i) =>
        permutations([...list.slice(0, i), ...list.slice(i + 1)]).map((rest) => [x, ...rest]),
      );
}

test("weighted shortest job first loses least of all orders", () => {
  fc.assert(
    fc.property(
      fc.array(fc.record({ duration: fc.integer({ min: 0, max: 20 }), weight: fc.nat(50) }), {
        maxLength: 6,
      }),
      (jobs: Job[]) => {
        const least = Math.min(...permutations(jobs).map(totalWeightedDelay));
        expect(totalWeightedDelay(weightedShortestFirst(jobs))).toBe(least);
      },
    ),
    { numRuns: runs(150) },
  );
});

test("a worked sequence: done after 2, 5 and 9 weeks, losing 3, 4 and 1 a week", () => {
  expect(
    totalWeightedDelay([
      { duration: 2, weight: 3 },
      { duration: 3, weight: 4 },
      { duration: 4, weight: 1 },
    ]),
  ).toBe(2 * 3 + 5 * 4 + 9 * 1);
});

const request = (change: Partial<Scored> = {}): Scored => ({
  id: "r",
  scores: { reach: 5, pain: 5, goal: 5 },
  votes: 20,
  estimate: 4,
  valuePerWeek: 5_000,
  weeks: 8,
  ...change,
});

test("cost of delay, and cost of delay divided by duration", () => {
  expect(scoreOf(FIRST_MODEL, request())).toMatchObject({
    costOfDelay: 40_000,
    delayByDuration: 1_250,
  });
  expect(scoreOf(FIRST_MODEL, request({ weeks: null }))).toMatchObject({
    costOfDelay: null,
    delayByDuration: 1_250,
  });
  expect(scoreOf(FIRST_MODEL, request({ estimate: 0 })).delayByDuration).toBeNull();
});

test("all of everything is 100, nothing of anything 0, and a part that nobody judged is not guessed", () => {
  expect(scoreOf(FIRST_MODEL, request()).score).toBeCloseTo(100);
  expect(
    scoreOf(FIRST_MODEL, request({ scores: { reach: 0, pain: 0, goal: 0 }, votes: 0 })).score,
  ).toBe(0);
  expect(scoreOf(FIRST_MODEL, request({ scores: { reach: 5 } })).score).toBeNull();
});

test("what weighs nothing need not be judged", () => {
  const model: ScoringModel = {
    ...FIRST_MODEL,
    criteria: FIRST_MODEL.criteria.map((c) => (c.id === "goal" ? { ...c, weight: 0 } : c)),
  };
  expect(scoreOf(model, request({ scores: { reach: 5, pain: 5 } })).score).toBeCloseTo(100);
  expect(
    scoreOf({ ...model, criteria: model.criteria.map((c) => ({ ...c, weight: 0 })) }, request())
      .score,
  ).toBeNull();
});

test("points by hand: weights 3, 4, 2 and 1; effort counts the other way round", () => {
  const { score, parts } = scoreOf(
    FIRST_MODEL,
    request({ scores: { reach: 2, pain: 3, goal: 5 }, votes: 10 }),
  );
  expect(parts.map((p) => Math.round(p.points! * 10) / 10)).toEqual([12, 24, 20, 5]);
  expect(score).toBeCloseTo(61);
  const effort: ScoringModel = {
    ...FIRST_MODEL,
    criteria: [{ id: "effort", name: "Effort", scale: 10, weight: -2, source: "estimate" }],
  };
  expect([
    scoreOf(effort, request({ estimate: 1 })).score,
    scoreOf(effort, request({ estimate: 12 })).score,
  ]).toEqual([90, 0]);
});

test("a better judgement never lowers a score", () => {
  fc.assert(
    fc.property(fc.nat(5), fc.nat(5), fc.nat(5), fc.nat(4), (reach, pain, goal, more) => {
      const score = (g: number) =>
        scoreOf(FIRST_MODEL, request({ scores: { reach, pain, goal: g } })).score!;
      expect(score(Math.min(5, goal + more))).toBeGreaterThanOrEqual(score(goal));
    }),
  );
});

test("ordered by a figure, highest first; what has none stays behind in the order it had", () => {
  const rows = [
    ["a", 1],
    ["b", null],
    ["c", 9],
    ["d", null],
  ].map(([id, value]) => ({
    request: request({ id: id as string, valuePerWeek: value as number | null, weeks: 1 }),
    parts: scoreOf(FIRST_MODEL, request({ valuePerWeek: value as number | null, weeks: 1 })),
  }));
  expect(orderBy(rows, "cost of delay").map((r) => r.request.id)).toEqual(["c", "a", "b", "d"]);
});

test("the moves of a new order are those whose place changes", () => {
  expect(movesBetween(["a", "b", "c", "d"], ["a", "c", "b", "d"])).toEqual([
    { id: "c", from: 3, to: 2 },
    { id: "b", from: 2, to: 3 },
  ]);
  expect(movesBetween(["a"], ["a"])).toEqual([]);
});

test("two criteria of one name, or a scale of nothing, are no model", () => {
  const [first] = FIRST_MODEL.criteria;
  expect(
    scoringModelSchema.safeParse({ ...FIRST_MODEL, criteria: [first, { ...first, id: "x" }] })
      .success,
  ).toBe(false);
  expect(
    scoringModelSchema.safeParse({ ...FIRST_MODEL, criteria: [{ ...first, scale: 0 }] }).success,
  ).toBe(false);
});
