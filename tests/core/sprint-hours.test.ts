import fc from "fast-check";
import { hourItems, workedUntil } from "@/core/plan/sprint-hours";
import { leftAt, sprintChanges } from "@/core/plan/sprint-ledger";
import { runs } from "./setup/runs";

const START = 100;
const END = 200;
const member = (id: string, hours: [number, number | null][]) => ({
  id,
  inside: [{ from: 50, to: null as number | null }],
  finished: [] as { from: number; to: number | null }[],
  deliveredAt: null,
  hours: hours.map(([from, size]) => ({ from, size })),
});
const task = (
  id: string,
  parentId: string,
  createdAt: number,
  hours: [number, number | null][],
) => {
  const { inside: _, ...of } = member(id, hours);
  return { ...of, parentId, createdAt };
};

/**
 * Worked by hand. At the start: the first has 10 h and a task of 6 h below it, the second 4 h. It is
 * worked on (10 to 7), its task is finished, a task of 3 h is found while it is built, the second is
 * taken out with its task.
 */
const MEMBERS = [
  member("first", [
    [10, 10],
    [120, 7],
  ]),
  { ...member("second", [[10, 4]]), inside: [{ from: 50, to: 170 }] },
];
const TASKS = [
  { ...task("t1", "first", 20, [[20, 6]]), finished: [{ from: 130, to: null }] },
  task("found", "first", 140, [[140, 3]]),
  task("t2", "second", 60, [[60, 2]]),
  task("elsewhere", "other", 20, [[20, 99]]),
];

test("a sprint in hours, worked by hand: its items and the tasks below them", () => {
  const items = hourItems(MEMBERS, TASKS);
  expect(leftAt(items, START).points).toBe(22);
  const told = sprintChanges(items, { start: START, end: END }).map(
    ({ at, itemId, term, change }) => [at, itemId, term, change.points],
  );
  expect(told).toEqual([
    [120, "first", "re-estimated", -3],
    [130, "t1", "finished", -6],
    [140, "found", "added", 3],
    [170, "second", "taken out", -4],
    [170, "t2", "taken out", -2],
  ]);
  expect(leftAt(items, END).points).toBe(10);
});

test("a task that is planned by itself counts once, for as long as it is", () => {
  const itself = { ...member("t1", [[20, 6]]), inside: [{ from: 150, to: null }] };
  const items = hourItems([...MEMBERS, itself], TASKS);
  expect(items.filter(({ id }) => id === "t1")).toHaveLength(1);
  expect(leftAt(items, 140).points).toBe(7 + 3 + 4 + 2);
  expect(leftAt(items, 160).points).toBe(7 + 3 + 4 + 2 + 6);
});

test("a task of something that left before the task was made is never in it", () => {
  const gone = [{ ...member("gone", []), inside: [{ from: 50, to: 110 }] }];
  const items = hourItems(gone, [task("late", "gone", 120, [[120, 5]])]);
  expect(items.find(({ id }) => id === "late")!.inside).toEqual([]);
});

test("what is left at any time is what it began with, and all that changed until then", () => {
  const hours = fc.array(
    fc.tuple(fc.integer({ min: 0, max: 300 }), fc.option(fc.integer({ min: 0, max: 40 }))),
    { maxLength: 4 },
  );
  const sorted = (of: [number, number | null][]) => of.toSorted((a, b) => a[0] - b[0]);
  fc.assert(
    fc.property(
      hours,
      fc.array(fc.tuple(fc.integer({ min: 0, max: 300 }), hours), { maxLength: 5 }),
      fc.integer({ min: 60, max: 190 }),
      (own, below, left) => {
        const of = [{ ...member("m", sorted(own)), inside: [{ from: 50, to: left }] }];
        const tasks = below.map(([made, hours], i) => task(`t${i}`, "m", made, sorted(hours)));
        const items = hourItems(of, tasks);
        const changes = sprintChanges(items, { start: START, end: END });
        const sum = changes.reduce((so, { change }) => so + change.points, 0);
        expect(leftAt(items, START).points + sum).toBe(leftAt(items, END).points);
      },
    ),
    { numRuns: runs(200) },
  );
});

test("hours are worked from the first day of a sprint to the end of the day that is asked about", () => {
  const worked = [
    { day: 9, hours: 8 },
    { day: 10, hours: 2 },
    { day: 12, hours: 1.5 },
    { day: 13, hours: 4 },
  ];
  expect(workedUntil(worked, { from: 10, to: 12 })).toBe(3.5);
  expect(workedUntil(worked, { from: 10, to: 9 })).toBe(0);
});
