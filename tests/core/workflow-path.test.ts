import { insertState, moveWithPath, takeOutState } from "@/core/workflow/path";
import type { Requirement } from "@/core/workflow/requirements/table";
import { PLAIN_STATE, type State } from "@/core/workflow/state";
import { PLAIN_TRANSITION, statesInOrder, type Workflow } from "@/core/workflow/workflow";

const reason: Requirement = { kind: "reason" };
const reviewer: Requirement = { kind: "filled", field: "reviewerId" };
const state = (id: string, position: number): State => ({
  ...PLAIN_STATE,
  id,
  name: id.toUpperCase(),
  kind: "working",
  stage: null,
  position,
});
const move = (id: string, from: string[], to: string, requirements: Requirement[] = []) => ({
  ...PLAIN_TRANSITION,
  id,
  from,
  to,
  verb: id,
  requirements,
});
/** a → b → c → d, and back from c to a. */
const path: Workflow = {
  id: "w",
  name: "W",
  version: 1,
  states: ["a", "b", "c", "d"].map(state),
  transitions: [
    move("ab", ["a"], "b", [reason]),
    move("bc", ["b"], "c", [reviewer, reason]),
    move("cd", ["c"], "d"),
    move("back", ["c", "b"], "a", [reason]),
  ],
};
const order = (w: Workflow) => statesInOrder(w).map((s) => s.id);
/** "a→b: verb (rules)", in the order of the alphabet. */
const moves = (w: Workflow) =>
  w.transitions
    .flatMap((t) =>
      t.from!.map((f) => `${f}→${t.to} ${t.verb} ${t.requirements.map((r) => r.kind).join("+")}`),
    )
    .map((m) => m.trim())
    .toSorted();

describe("taking a state out", () => {
  test("joins its neighbours by one move with the rules of both, each once", () => {
    const after = takeOutState(path, "b", "new");
    expect(order(after)).toEqual(["a", "c", "d"]);
    expect(moves(after)).toEqual(["a→c ab reason+filled", "c→a back reason", "c→d cd"]);
    expect(after.transitions.find((t) => t.verb === "ab")!.id).toBe("new");
  });

  test("leaves a move between them that is there as it is", () => {
    const short = { ...path, transitions: [...path.transitions, move("ac", ["a"], "c")] };
    expect(moves(takeOutState(short, "b", "new"))).toEqual(["a→c ac", "c→a back reason", "c→d cd"]);
  });

  test("joins nothing at an end of the path", () => {
    expect(moves(takeOutState(path, "a", "new"))).toEqual(["b→c bc filled+reason", "c→d cd"]);
    expect(moves(takeOutState(path, "d", "new"))).toHaveLength(4);
  });

  test("a move from several states is joined for the one, and stays for the others", () => {
    const shared = {
      ...path,
      transitions: [move("in", ["a", "d"], "b"), move("bc", ["b"], "c", [reason])],
    };
    expect(moves(takeOutState(shared, "b", "new"))).toEqual(["a→c in reason"]);
  });
});

describe("a state between two others", () => {
  const made = (rulesOn: "inward" | "onward", transitionId = "bc", from = "b") =>
    insertState(
      path,
      { transitionId, from, verbs: ["Hand over", "Take up"], rulesOn },
      { id: "x", name: "A", kind: "waiting", stage: null, moveIds: ["m1", "m2"] },
    );
  test("with the rules on the way in, or on the way out", () => {
    expect(order(made("inward"))).toEqual(["a", "b", "x", "c", "d"]);
    expect(moves(made("inward")).filter((m) => m.includes("x"))).toEqual([
      "b→x Hand over filled+reason",
      "x→c Take up",
    ]);
    expect(moves(made("onward")).filter((m) => m.includes("x"))).toEqual([
      "b→x Hand over",
      "x→c Take up filled+reason",
    ]);
    expect(moves(made("inward"))).not.toContain("b→c bc filled+reason");
  });
  test("has a name of its own", () =>
    expect(made("inward").states.find((s) => s.id === "x")!.name).toBe("A 2"));
  test("in a move from several states: the others keep theirs", () => {
    expect(moves(made("onward", "back", "c"))).toEqual(
      expect.arrayContaining(["b→a back reason", "c→x Hand over", "x→a Take up reason"]),
    );
  });
  test("in a move that is not there: nothing", () => {
    expect(made("inward", "none")).toBe(path);
    expect(made("inward", "bc", "a")).toBe(path);
  });
});

describe("a state that is moved along with its path", () => {
  const along = (w: Workflow, id: string, by: number) => moveWithPath(w, id, by, ["j", "i", "o"]);
  test("the old neighbours are joined, the new ones lead through it, rules stay where they were", () => {
    const after = along(path, "b", 1);
    expect(order(after)).toEqual(["a", "c", "b", "d"]);
    expect(moves(after)).toEqual([
      "a→c bc",
      "b→a back reason",
      "b→d bc filled+reason",
      "c→a back reason",
      "c→b ab reason",
    ]);
  });
  test("a way past it that demands something stays", () => {
    const ruled = {
      ...path,
      transitions: path.transitions.map((t) =>
        t.id === "cd" ? { ...t, requirements: [reason] } : t,
      ),
    };
    expect(moves(along(ruled, "b", 1))).toContain("c→d cd reason");
  });
  test("there and back is the same order, with each rule as often as before", () => {
    const back = along(along(path, "b", 1), "b", -1);
    expect(order(back)).toEqual(order(path));
    expect(moves(back).filter((m) => m.startsWith("a→b") || m.startsWith("b→c"))).toEqual([
      "a→b ab reason",
      "b→c bc filled+reason",
    ]);
  });
  test("where the path does not run through it, it only takes another place", () => {
    const loose = { ...path, transitions: path.transitions.filter((t) => t.id !== "ab") };
    expect(moves(along(loose, "b", 1))).toEqual(moves(loose));
    expect(along(path, "b", 0)).toBe(path);
  });
  test("no two moves have the same id", () => {
    for (const [id, by] of [
      ["b", 1],
      ["c", -1],
      ["b", 2],
      ["c", 1],
    ] as const) {
      const ids = along(path, id, by).transitions.map((t) => t.id);
      expect(new Set(ids).size).toBe(ids.length);
    }
  });
});
