import fc from "fast-check";
import { maskIds } from "@/core/flow/outside-view";
import { habitsOf, isHabit, maskHabits, type Passage } from "@/core/workflow/habits";
import { isInProgress } from "@/core/workflow/state";
import { fromTemplate } from "@/core/workflow/template";
import { BUILD_REVIEW_TEST_DEPLOY } from "@/core/workflow/templates/build-review-test-deploy";
import { statesInOrder, type Workflow } from "@/core/workflow/workflow";

let n = 0;
const workflow = {
  ...fromTemplate(BUILD_REVIEW_TEST_DEPLOY, () => `s${n++}`),
  id: "w",
  version: 1,
} as Workflow;
const order = statesInOrder(workflow);
const idOf = (name: string) => order.find((state) => state.name === name)!.id;
let items = 0;
const walk = (...names: string[]): Passage[] => {
  const itemId = `item${++items}`;
  return names.slice(1).map((to, i) => ({ itemId, from: idOf(names[i]), to: idOf(to) }));
};
const names = order.map(({ name }) => name);
const [backlog, ready, building, waiting, review] = names;

test("a state that steps go past is passed by, of all times that it was passed or reached", () => {
  const passages = [
    walk(backlog, ready, building, waiting, review),
    walk(backlog, ready, building, review),
    walk(backlog, building, review),
  ].flat();
  const { skipped, backwards, steps } = habitsOf(workflow, passages);
  expect(backwards).toEqual([]);
  expect(steps).toBe(9);
  expect(skipped.map(({ stateId, times, of }) => [stateId, times, of])).toEqual([
    [idOf(waiting), 2, 3],
    [idOf(ready), 1, 3],
  ]);
  expect(skipped[0].past).toEqual([{ from: idOf(building), to: idOf(review), times: 2 }]);
  expect(skipped[0].itemIds).toHaveLength(2);
});

test("steps back count among all steps from there, and pass nothing by", () => {
  const passages = [
    walk(backlog, ready, building, waiting, review, building, waiting, review),
    walk(backlog, ready, building, waiting, review),
  ].flat();
  const { skipped, backwards } = habitsOf(workflow, passages);
  expect(skipped).toEqual([]);
  expect(backwards).toMatchObject([{ from: idOf(review), to: idOf(building), times: 1, of: 1 }]);
});

test("what is finished is left by steps back alone: they count among all that finished", () => {
  const live = names.find((name) => order.find((s) => s.name === name)!.kind === "finished")!;
  const toLive = names.slice(0, names.indexOf(live) + 1);
  const passages = [walk(...toLive), walk(...toLive), walk(...toLive, building)].flat();
  expect(habitsOf(workflow, passages).backwards).toMatchObject([{ times: 1, of: 3 }]);
});

test("an item that ends without a delivery passes nothing by; states that are gone are left out", () => {
  const closed = order.find((s) => s.kind === "finished" && !s.outcomes.includes("delivered"))!;
  const passages = [
    ...walk(backlog, closed.name),
    { itemId: "x", from: "gone", to: idOf(building) },
    { itemId: "x", from: idOf(building), to: "gone" },
  ];
  expect(habitsOf(workflow, passages)).toMatchObject({ steps: 1, skipped: [], backwards: [] });
});

test("once is no habit, nor what happens less often than one time in ten", () => {
  expect(isHabit({ times: 1, of: 2 })).toBe(false);
  expect(isHabit({ times: 2, of: 20 })).toBe(true);
  expect(isHabit({ times: 2, of: 21 })).toBe(false);
});

test("whatever was walked: never more often than it could be, and what is hidden stays counted", () => {
  const anyState = fc.constantFrom(...order.map(({ id }) => id));
  const anyPassage = fc.record({
    itemId: fc.constantFrom("a", "b", "c"),
    from: anyState,
    to: anyState,
  });
  fc.assert(
    fc.property(fc.array(anyPassage, { maxLength: 40 }), (passages) => {
      const habits = habitsOf(workflow, passages);
      for (const one of [...habits.skipped, ...habits.backwards]) {
        expect(one.times).toBeLessThanOrEqual(one.of);
        expect(one.itemIds.length).toBeLessThanOrEqual(one.times);
      }
      for (const { stateId } of habits.skipped)
        expect(isInProgress(order.find(({ id }) => id === stateId)!.kind)).toBe(true);
      const masked = maskHabits(habits, (ids) => maskIds(ids, new Set(["a"])));
      expect(JSON.stringify(masked)).not.toContain('"a"');
      expect(masked.skipped.map(({ itemIds }) => itemIds.length)).toEqual(
        habits.skipped.map(({ itemIds }) => itemIds.length),
      );
    }),
  );
});
