import { expectationKept, expectationWords } from "@/core/flow/expectation";
import { ageOf } from "@/core/flow/age";
import { littlesLaw } from "@/core/flow/littles-law";
import { percentiles } from "@/core/flow/report";
import {
  clockOf,
  departuresIn,
  factsOf,
  finishedIn,
  inProgressAt,
} from "../core/setup/flow-by-history";
import { DAY, history } from "../core/setup/make";

/*
 * The open Kanban guide (J. Coleman and D. Vacanti, "The Kanban Guide", section "Kanban measures")
 * defines:
 *   WIP: the number of work items started but not finished;
 *   throughput: the number of work items finished per unit of time;
 *   work item age: the elapsed time between when a work item started and the current time;
 *   cycle time: the elapsed time between when a work item started and when it finished.
 * The table below was worked by hand from these definitions; days are counted with both ends, so a
 * same-day item took 1.
 *
 *   item  started  finished  cycle time (days)
 *   A     day 0    day 2     3
 *   B     day 1    day 1     1
 *   C     day 1    day 6     6
 *   D     day 3    –         at noon of day 9: age 7
 *   E     –        –         never started
 *   F     day 5    day 8     4
 */
const items = [
  history("A", [
    ["Backlog", "unstarted", -1, 0.25],
    ["Ready", "waiting", 0.25, 1],
    ["Building", "working", 1, 2.5],
    ["Live", "finished", 2.5, null],
  ]),
  history("B", [
    ["Building", "working", 1.2, 1.8],
    ["Live", "finished", 1.8, null],
  ]),
  history("C", [
    ["Ready", "waiting", 1.5, 4],
    ["Building", "working", 4, 6.5],
    ["Live", "finished", 6.5, null],
  ]),
  history("D", [["Building", "working", 3.5, null]]),
  history("E", [["Backlog", "unstarted", 0, null]]),
  history("F", [
    ["Ready", "waiting", 5, 6],
    ["Building", "working", 6, 8.75],
    ["Live", "finished", 8.75, null],
  ]),
];

test.each([
  [0, []],
  [1.5, ["A", "B", "C"]],
  [2, ["A", "C"]],
  [5.5, ["C", "D", "F"]],
  [9.5, ["D"]],
])("WIP at day %f is %j", (day, expected) => {
  expect(inProgressAt(items, day * DAY).map((h) => h.id)).toEqual(expected);
});

test("cycle times and throughput of the table", () => {
  const finished = finishedIn(items, { from: 0, to: 10 * DAY }, "UTC");
  expect(finished.map((f) => [f.itemId, f.days])).toEqual([
    ["B", 1],
    ["A", 3],
    ["C", 6],
    ["F", 4],
  ]);
  expect(finishedIn(items, { from: 2 * DAY, to: 8 * DAY }, "UTC")).toHaveLength(2);
  expect(percentiles(finished.map((f) => f.days))).toEqual({ p50: 3, p85: 6, p95: 6 });
});

test("work item age of the table", () => {
  expect(ageOf(clockOf(items[3]), "UTC", 9.5 * DAY).age).toBe(7);
  expect(ageOf(clockOf(items[4]), "UTC", 9.5 * DAY).age).toBe(0);
});

/*
 * The guide's service level expectation: a period of elapsed time and the probability that goes
 * with it.
 */
test("the expectation of the table", () => {
  const expectation = { days: 4, share: 0.85 };
  expect(expectationWords(expectation)).toBe("85 % within 4 days");
  expect(expectationKept([1, 3, 6, 4], expectation)).toEqual({
    within: 3,
    of: 4,
    share: 0.75,
    met: false,
  });
});

/*
 * J. D. C. Little, "A proof for the queuing formula: L = λW", Operations Research 9 (1961),
 * 383-387. Worked by hand: over days 0 to 10 the items A, B, C, F spend 2.25 + 0.6 + 5 + 3.75 =
 * 11.6 days in progress, so L = 1.16 items, λ = 0.4 a day and W = 2.9 days.
 */
test("Little's law on the table without the unfinished item", () => {
  const span = { from: 0, to: 10 * DAY };
  const without = items.filter((h) => h.id !== "D");
  const { inProgressMs } = factsOf(without, span, "UTC");
  const law = littlesLaw(span, inProgressMs, departuresIn(without, span, "UTC"));
  expect(law.averageWip).toBeCloseTo(1.16, 10);
  expect(law.throughput).toBeCloseTo(0.4, 10);
  expect(law.averageTime).toBeCloseTo(2.9, 10);
  expect(law.gap).toBeCloseTo(0, 10);
});
