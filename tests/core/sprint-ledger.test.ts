import fc from "fast-check";
import {
  idealLine,
  leftAt,
  sizeAt,
  sprintChanges,
  sprintDays,
  sprintOutcome,
  velocityRange,
  type ItemOverTime,
} from "@/core/plan/sprint-ledger";
import { runs } from "./setup/runs";

const START = 100;
const END = 200;

/** An item that is in the sprint from before its start on, of a size. */
const item = (id: string, size: number | null, more: Partial<ItemOverTime> = {}): ItemOverTime => ({
  id,
  inside: [{ from: 50, to: null }],
  finished: [],
  sizes: [{ from: 10, size }],
  deliveredAt: null,
  ...more,
});

/**
 * A sprint worked by hand. At its start 5 + 3 + 8 + 2 points are in it, one more item was finished
 * before: 18 are left of four items, 20 of scope.
 */
const WORKED: ItemOverTime[] = [
  item("done", 5, { finished: [{ from: 130, to: null }], deliveredAt: 130 }),
  item("re-sized", 3, {
    sizes: [
      { from: 10, size: 3 },
      { from: 140, size: 5 },
    ],
  }),
  item("taken out", 8, { inside: [{ from: 50, to: 150 }] }),
  item("again", 2, {
    finished: [
      { from: 120, to: 160 },
      { from: 190, to: null },
    ],
    deliveredAt: 120,
  }),
  item("before", 2, { finished: [{ from: 60, to: null }], deliveredAt: 60 }),
  item("added", 4, { inside: [{ from: 110, to: null }] }),
  item("interruption", 0, {
    inside: [{ from: 115, to: null }],
    finished: [{ from: 118, to: null }],
    deliveredAt: 118,
  }),
  item("unsized", null, { finished: [{ from: 170, to: null }], deliveredAt: 170 }),
  item("late", 9, { inside: [{ from: 210, to: null }] }),
];

test("a sprint worked by hand: what is left changes by what is added, taken out, re-estimated, reopened and finished", () => {
  expect(leftAt(WORKED, START)).toEqual({ points: 18, items: 5 });
  const told = sprintChanges(WORKED, { start: START, end: END }).map(
    ({ at, itemId, term, change }) => [at, itemId, term, change.points, change.items],
  );
  expect(told).toEqual([
    [110, "added", "added", 4, 1],
    [115, "interruption", "added", 0, 1],
    [118, "interruption", "finished", 0, -1],
    [120, "again", "finished", -2, -1],
    [130, "done", "finished", -5, -1],
    [140, "re-sized", "re-estimated", 2, 0],
    [150, "taken out", "taken out", -8, -1],
    [160, "again", "reopened", 2, 1],
    [170, "unsized", "finished", 0, -1],
    [190, "again", "finished", -2, -1],
  ]);
  expect(leftAt(WORKED, END)).toEqual({ points: 9, items: 2 });
  expect(sprintOutcome(WORKED, { start: START, end: END })).toEqual({
    committed: ["done", "re-sized", "taken out", "again", "unsized"],
    committedPoints: 18,
    added: ["added", "interruption"],
    takenOut: ["taken out"],
    delivered: ["done", "again", "interruption", "unsized"],
    unsized: ["unsized"],
    interruptions: ["interruption"],
    velocity: 7,
    carriedOver: ["re-sized", "added"],
  });
});

test("its days tell the same, each change on the day on which it happened", () => {
  const ends = [125, 150, 175, 200].map((at, i) => ({ day: i, at }));
  const days = sprintDays(WORKED, { start: START, ends });
  expect(days.map(({ left }) => left.points)).toEqual([20, 9, 11, 9]);
  expect(days.map(({ scope }) => scope.points)).toEqual([24, 18, 18, 18]);
  expect(days.map(({ changes }) => changes.length)).toEqual([4, 3, 2, 1]);
});

/** An item with any history of sizes, stays in the sprint and finishes. */
const anyItem = fc
  .record({
    id: fc.uuid(),
    inside: fc.uniqueArray(fc.integer({ min: 0, max: 300 }), { maxLength: 6 }),
    finished: fc.uniqueArray(fc.integer({ min: 0, max: 300 }), { maxLength: 6 }),
    sizes: fc.array(
      fc.tuple(fc.integer({ min: 0, max: 300 }), fc.option(fc.integer({ min: 0, max: 13 }))),
      { maxLength: 4 },
    ),
  })
  .map(({ id, inside, finished, sizes }): ItemOverTime => {
    const stretches = (at: number[]) => {
      const sorted = at.toSorted((a, b) => a - b);
      return sorted.flatMap((from, i) =>
        i % 2 === 0 ? [{ from, to: sorted[i + 1] ?? null }] : [],
      );
    };
    const done = stretches(finished);
    return {
      id,
      inside: stretches(inside),
      finished: done,
      sizes: sizes.toSorted((a, b) => a[0] - b[0]).map(([from, size]) => ({ from, size })),
      deliveredAt: done[0]?.from ?? null,
    };
  });

test("what is left is always what was left at the start with every change since, in each unit", () => {
  fc.assert(
    fc.property(
      fc.array(anyItem, { maxLength: 8 }),
      fc.integer({ min: 100, max: 200 }),
      (items, at) => {
        const begun = leftAt(items, START);
        const changes = sprintChanges(items, { start: START, end: at });
        for (const unit of ["points", "items"] as const) {
          const sum = changes.reduce((total, { change }) => total + change[unit], begun[unit]);
          expect(sum).toBe(leftAt(items, at)[unit]);
        }
        for (const { term, change } of changes) {
          if (term === "added" || term === "reopened") expect(change.items).toBe(1);
          if (term === "taken out" || term === "finished") expect(change.items).toBe(-1);
          if (term === "re-estimated") expect(change.points).not.toBe(0);
        }
      },
    ),
    { numRuns: runs(300) },
  );
});

test("a size is the latest one, and none where nobody had said one", () => {
  const sized = {
    sizes: [
      { from: 10, size: null },
      { from: 20, size: 3 },
      { from: 20, size: 5 },
    ],
  };
  expect([5, 10, 19, 20, 99].map((at) => sizeAt(sized, at))).toEqual([null, null, null, 5, 5]);
});

test("velocity is told of the last six, and of three at least", () => {
  expect(velocityRange([20, 22])).toBeNull();
  expect(velocityRange([99, 10, 20, 30, 20, 20, 26])).toEqual({
    mean: 21,
    least: 10,
    most: 30,
    of: 6,
  });
});

test("the even line falls on working days alone", () => {
  expect(idealLine(12, [true, true, false, false, true])).toEqual([8, 4, 4, 4, 0]);
  expect(idealLine(12, [false, false])).toEqual([12, 12]);
});
