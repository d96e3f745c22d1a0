import {
  addState,
  changeState,
  changeTransition,
  connect,
  moveState,
  removeTransition,
} from "@/core/workflow/edit";
import { mergeWorkflows, takeMine } from "@/core/workflow/merge";
import { statesInOrder, type Workflow } from "@/core/workflow/workflow";
import { workflow } from "./setup/make";

/*
 * What two leads changed at once, move by move and in their order. Fields of states and what one
 * took out of them are tried with the designer.
 */
const moveOf = (w: Workflow, verb: string) => w.transitions.find((t) => t.verb === verb)!;
const START = moveOf(workflow, "Start review").id;
const without = (verb: string) => removeTransition(workflow, moveOf(workflow, verb).id);
const changed = (rules: Parameters<typeof changeTransition>[2]) =>
  changeTransition(workflow, START, rules);
const order = (w: Workflow) => statesInOrder(w).map((s) => s.name);

describe("of moves", () => {
  test("what both changed of one is theirs until mine is taken, and only that field", () => {
    const mine = changed({ verb: "Read it", requirements: [] });
    const theirs = changed({ verb: "Look at it", who: [{ kind: "reviewer" }] });
    const { workflow: merged, clashes } = mergeWorkflows(workflow, mine, theirs);
    expect(clashes).toEqual([
      { about: "move", id: START, field: "verb", words: "the words of the move “Look at it”" },
    ]);
    const at = (w: Workflow) => w.transitions.find((t) => t.id === START)!;
    const both = { requirements: [], who: [{ kind: "reviewer" }] };
    expect(at(merged)).toMatchObject({ ...both, verb: "Look at it" });
    const taken = takeMine(merged, clashes[0], mine);
    expect(at(taken)).toMatchObject({ ...both, verb: "Read it" });
    const others = (w: Workflow) => w.transitions.filter((t) => t.id !== START);
    expect(others(taken)).toEqual(others(workflow));
  });

  test("one that they took out and I changed is gone until mine is taken, and back then", () => {
    const mine = changed({ verb: "Read it" });
    const { workflow: merged, clashes } = mergeWorkflows(workflow, mine, without("Start review"));
    expect(clashes).toEqual([
      { about: "move", id: START, field: null, words: "the move “Read it”, which they took out" },
    ]);
    expect(merged.transitions.some((t) => t.id === START)).toBe(false);
    const back = takeMine(merged, clashes[0], mine);
    expect(back.transitions.filter((t) => t.id === START)).toEqual(
      mine.transitions.filter((t) => t.id === START),
    );
    expect(back.transitions).toHaveLength(workflow.transitions.length);
    expect(back.states).toEqual(workflow.states);
  });

  test("one that I took out and they changed stays until mine is taken, and goes then", () => {
    const mine = without("Start review");
    const theirs = changed({ verb: "Look at it" });
    const { workflow: merged, clashes } = mergeWorkflows(workflow, mine, theirs);
    expect(clashes.map((c) => c.words)).toEqual(["the move “Look at it”, which you took out"]);
    expect(merged.transitions).toEqual(theirs.transitions);
    expect(takeMine(merged, clashes[0], mine).transitions).toEqual(mine.transitions);
  });

  test("what both took out or neither changed is no clash", () => {
    const gone = without("Start review");
    expect(mergeWorkflows(workflow, gone, gone)).toEqual({ workflow: gone, clashes: [] });
    const mine = changed({ verb: "Read it" });
    const both = mergeWorkflows(workflow, mine, mine);
    expect(both).toEqual({ workflow: mine, clashes: [] });
  });

  test("one to a state that is gone goes too, and of several beginnings only the lost one", () => {
    const several = changeTransition(workflow, START, { from: ["Waiting for review", "Building"] });
    const theirs = {
      ...several,
      states: several.states.filter((s) => s.id !== "Building" && s.id !== "In test"),
    };
    const { workflow: merged } = mergeWorkflows(several, several, theirs);
    expect(merged.transitions.find((t) => t.id === START)!.from).toEqual(["Waiting for review"]);
    const ends = merged.transitions.flatMap((t) => [t.to, ...(t.from ?? [])]);
    expect(ends).not.toContain("Building");
    expect(ends).not.toContain("In test");
    const anywhere = (w: Workflow) => w.transitions.filter((t) => t.from === null);
    expect(anywhere(merged)).toEqual(anywhere(several));
    expect(merged.transitions.every((t) => t.from === null || t.from.length > 0)).toBe(true);
  });
});

describe("of the name", () => {
  const named = (name: string) => ({ ...workflow, name });
  test.each([
    ["mine", "theirs", "theirs", 1],
    ["mine", workflow.name, "mine", 0],
    [workflow.name, "theirs", "theirs", 0],
    ["alike", "alike", "alike", 0],
  ])("mine is %s, theirs is %s: %s, clashes %d", (mine, theirs, name, clashes) => {
    const merged = mergeWorkflows(workflow, named(mine), named(theirs));
    expect(merged.workflow.name).toBe(name);
    expect(merged.clashes).toHaveLength(clashes);
  });
});

describe("of the order", () => {
  const [first, second] = [moveState(workflow, "Ready", 1), moveState(workflow, "In test", -1)];
  const added = (w: Workflow, id: string, after: string) =>
    addState(w, after, {
      id,
      name: id,
      kind: "waiting",
      stage: null,
      moveIds: [`${id} in`, `${id} out`],
    });
  test("whoever changed it leads; of both, theirs; and it counts from 0", () => {
    const merged = (mine: Workflow, theirs: Workflow) =>
      mergeWorkflows(workflow, mine, theirs).workflow;
    expect(order(merged(first, workflow))).toEqual(order(first));
    expect(order(merged(workflow, first))).toEqual(order(first));
    expect(order(merged(first, second))).toEqual(order(second));
    expect(merged(first, second).states.map((s) => s.position)).toEqual([
      ...workflow.states.keys(),
    ]);
  });
  test("what only one has follows what it follows there, whoever leads", () => {
    const mine = added(first, "Mine", "Building");
    const theirs = added(workflow, "Theirs", "In review");
    const names = order(mergeWorkflows(workflow, mine, theirs).workflow);
    expect(names.indexOf("Mine")).toBe(names.indexOf("Building") + 1);
    expect(names.indexOf("Theirs")).toBe(names.indexOf("In review") + 1);
    // What is new is no reordering: the other one's order counts.
    const both = order(
      mergeWorkflows(workflow, added(workflow, "Mine", "Building"), second).workflow,
    );
    expect(both.filter((name) => name !== "Mine")).toEqual(order(second));
  });
});

test("a state brought back brings its own moves, and none that is there already", () => {
  const mine = changeState(workflow, "Ready", { expectedDays: 2 });
  const theirs = {
    ...workflow,
    states: workflow.states.filter((s) => s.id !== "Ready"),
    transitions: workflow.transitions.filter((t) => t.to !== "Ready" && !t.from?.includes("Ready")),
  };
  const linked = connect(theirs, { id: "new", from: "Backlog", to: "Building", verb: "Skip" });
  const { workflow: merged, clashes } = mergeWorkflows(workflow, mine, linked);
  const back = takeMine(merged, clashes[0], mine);
  const ids = back.transitions.map((t) => t.id);
  expect(new Set(ids).size).toBe(ids.length);
  expect([...ids].sort()).toEqual([...workflow.transitions.map((t) => t.id), "new"].sort());
});
