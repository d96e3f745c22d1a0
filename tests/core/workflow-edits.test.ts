import type { Condition } from "@/core/condition/condition";
import { copyOf } from "@/core/workflow/copy";
import { differences } from "@/core/workflow/difference";
import {
  addState,
  changeState,
  changeTransition,
  connect,
  disconnect,
  freeName,
  moveState,
  proposedVerb,
  removeTransition,
} from "@/core/workflow/edit";
import type { State } from "@/core/workflow/state";
import { statesInOrder, type Transition, type Workflow } from "@/core/workflow/workflow";
import { VOCABULARY } from "./setup/conditions";
import { atMost, workflow } from "./setup/make";

const named = (verb: string) => workflow.transitions.find((t) => t.verb === verb)!;
const state = (name: string) => workflow.states.find((s) => s.name === name)!;
const words = (after: Workflow, before: Workflow = workflow) =>
  differences(before, after, VOCABULARY).map((d) => `${d.kind} ${d.about}: ${d.sentence}`);
const withState = (name: string, change: Partial<State>) =>
  changeState(workflow, state(name).id, change);
const withMove = (verb: string, change: Partial<Transition>) =>
  changeTransition(workflow, named(verb).id, change);

describe("what is different, in words", () => {
  test("nothing", () => expect(words(workflow)).toEqual([]));

  test.each<[string, Partial<State>, string]>([
    ["its name", { name: "At work" }, "Building is called At work."],
    ["its kind", { kind: "waiting" }, "Building is waiting instead of working."],
    ["its stage", { stage: "Dock" }, "Building belongs to Dock instead of Build."],
    ["no stage", { stage: null }, "Building belongs to no stage instead of Build."],
    [
      "its team",
      { teamId: "ticketing" },
      "In Building works Ticketing instead of nobody in particular.",
    ],
    [
      "a team that is gone",
      { teamId: "old" },
      "In Building works a team that is gone instead of nobody in particular.",
    ],
    [
      "the time expected",
      { expectedDays: 1 },
      "The expected time in Building is 1 day (was not set).",
    ],
    ["when it is too old", { tooOldDays: 3 }, "Too old in Building is after 3 days (was not set)."],
    [
      "a firm limit",
      { limit: atMost(4, true) },
      "The limit of Building is at most 4, firm (was none).",
    ],
    [
      "one that is advice",
      { limit: atMost(4, false) },
      "The limit of Building is at most 4 (was none).",
    ],
    [
      "its outcomes",
      { outcomes: ["delivered", "obsolete"] },
      "Building allows delivered and obsolete.",
    ],
    [
      "what is agreed to enter",
      { entryPolicies: [{ id: "p", text: "Sized" }] },
      "To enter Building is agreed: “Sized”.",
    ],
    [
      "what is agreed to leave",
      { exitPolicies: [{ id: "p", text: "Tested" }] },
      "To leave Building is agreed: “Tested”.",
    ],
  ])("%s", (_what, change, sentence) => {
    expect(words(withState("Building", change))).toEqual([`changed state: ${sentence}`]);
  });

  test("and back: what was agreed, allowed and named before", () => {
    const before = withState("Building", {
      outcomes: ["delivered"],
      exitPolicies: [
        { id: "p", text: "Tested" },
        { id: "q", text: "Told" },
      ],
      expectedDays: 2,
      stage: null,
    });
    const after = changeState(before, "Building", {
      outcomes: [],
      exitPolicies: [{ id: "q", text: "Told the crew" }],
      expectedDays: null,
      stage: "Build",
    });
    expect(words(after, before)).toEqual([
      "changed state: Building belongs to Build instead of none.",
      "changed state: The expected time in Building is not set (was 2 days).",
      "changed state: Building allows any outcome.",
      "changed state: To leave Building is not agreed any more: “Tested”.",
      "changed state: To leave Building is agreed “Told the crew” instead of “Told”.",
    ]);
  });

  test("a name, an order, states that come and go", () => {
    expect(words({ ...workflow, name: "Ferry" })).toEqual([
      `changed workflow: It is called “Ferry” instead of “${workflow.name}”.`,
    ]);
    const swapped = moveState(workflow, "Ready", 1);
    expect(words(swapped)).toEqual([
      `changed workflow: The order is now ${statesInOrder(swapped)
        .map((s) => s.name)
        .join(", ")}.`,
    ]);
    const more = addState(workflow, "Closed", {
      id: "a",
      name: "Archive",
      kind: "finished",
      stage: null,
      moveIds: ["x", "y"],
    });
    expect(words(more)).toEqual(["added state: New state Archive, finished."]);
    expect(words(workflow, more)).toEqual(["removed state: Archive is gone."]);
    const staged = changeState(more, "a", { stage: "Store" });
    expect(words(staged)).toEqual(["added state: New state Archive, finished in Store."]);
  });

  test.each<[string, Partial<Transition>, string]>([
    [
      "another verb",
      { verb: "Fetch" },
      "The move “Pull” from Backlog to Ready is now “Fetch” from Backlog to Ready.",
    ],
    [
      "from anywhere",
      { from: null },
      "The move “Pull” from Backlog to Ready is now “Pull” from anywhere to Ready.",
    ],
    [
      "from several",
      { from: ["Backlog", "Live"] },
      "The move “Pull” from Backlog to Ready is now “Pull” from Backlog and Live to Ready.",
    ],
    [
      "its rules",
      {
        who: [{ kind: "role", role: "lead" }],
        requirements: [{ kind: "reason" }],
        followUps: [{ kind: "put on top" }],
        triggers: [{ kind: "sub-tasks finished" }],
      },
      "The move “Pull” from Backlog to Ready, from now on: only for a lead; says why; then puts it on top; by itself when all its children are finished.",
    ],
  ])("a move: %s", (_what, change, sentence) =>
    expect(words(withMove("Pull", change))).toEqual([`changed move: ${sentence}`]),
  );

  test("rules that read alike and are not the same", () => {
    const checklist = (policies: boolean): Transition["requirements"] => [
      {
        kind: "condition",
        condition: {
          kind: policies ? "all" : "any",
          of: [{ kind: "compare", fact: "typeId", op: "is", value: "bug" }],
        } as Condition,
      },
    ];
    expect(
      words(
        withMove("Pull", { requirements: checklist(true) }),
        withMove("Pull", { requirements: checklist(false) }),
      ),
    ).toEqual(["changed move: The move “Pull” from Backlog to Ready has other rules."]);
  });

  test("moves that come and go", () => {
    const less = removeTransition(workflow, named("Pull").id);
    expect(words(less)).toEqual(["removed move: The move “Pull” from Backlog to Ready is gone."]);
    expect(words(workflow, less)).toEqual(["added move: New move “Pull” from Backlog to Ready."]);
  });
});

describe("edits", () => {
  test("a free name is the wanted one, shortened, or numbered whatever its case", () => {
    expect(freeName(workflow, " Dock ")).toBe("Dock");
    expect(freeName(workflow, "BUILDING")).toBe("BUILDING 2");
    expect(freeName(withState("Ready", { name: "Building 2" }), "building")).toBe("building 3");
    expect(freeName(workflow, "  ")).toBe("New state");
    expect(freeName(workflow, "x".repeat(80))).toBe("x".repeat(56));
  });

  test("a state is moved within the row, no further than its ends; moves stay as they are", () => {
    const names = (w: Workflow) => statesInOrder(w).map((s) => s.id);
    const all = names(workflow);
    expect(names(moveState(workflow, "Ready", -1)).slice(0, 2)).toEqual(["Ready", "Backlog"]);
    expect(names(moveState(workflow, "Ready", -9))[0]).toBe("Ready");
    expect(names(moveState(workflow, "Ready", 99)).at(-1)).toBe("Ready");
    expect(moveState(workflow, "Ready", 0)).toBe(workflow);
    expect(moveState(workflow, "nothing", 1)).toBe(workflow);
    const moved = moveState(workflow, "Backlog", 2);
    expect(names(moved)).toEqual([all[1], all[2], all[0], ...all.slice(3)]);
    expect(statesInOrder(moved).map((s) => s.position)).toEqual(all.map((_, i) => i));
    expect(moved.transitions).toBe(workflow.transitions);
  });

  test("two states are connected once; none with itself", () => {
    const move = { id: "new", from: "Backlog", to: "In test", verb: "Jump" };
    expect(connect(workflow, move).transitions.at(-1)).toMatchObject({
      ...move,
      from: ["Backlog"],
      who: [],
      requirements: [],
    });
    expect(connect(workflow, { ...move, to: "Ready" })).toBe(workflow);
    expect(connect(workflow, { ...move, to: "Backlog" })).toBe(workflow);
    expect(connect(workflow, { ...move, from: null, to: "Closed" })).toBe(workflow);
    expect(connect(workflow, { ...move, from: null }).transitions.at(-1)!.from).toBeNull();
    expect(connect(workflow, { ...move, from: null, to: "Ready" })).not.toBe(workflow);
  });

  test("a move that leads from several states loses the one that is disconnected", () => {
    const several = withMove("Pull", { from: ["Backlog", "Live"] });
    const id = named("Pull").id;
    const left = disconnect(several, "Live", "Ready");
    expect(left.transitions.find((t) => t.id === id)!.from).toEqual(["Backlog"]);
    expect(disconnect(left, "Backlog", "Ready").transitions.some((t) => t.id === id)).toBe(false);
    expect(disconnect(several, "Building", "Live").transitions).toEqual(several.transitions);
    expect(disconnect(workflow, "Building", "Closed").transitions).toEqual(workflow.transitions);
  });

  test("a state that comes between takes over the move, with what it demanded", () => {
    const id = named("Start building").id;
    const between = addState(workflow, "Ready", {
      id: "new",
      name: "Sized",
      kind: "waiting",
      stage: "Ready",
      moveIds: ["in", "out"],
    });
    const at = between.transitions.findIndex((t) => t.id === "in");
    expect(between.transitions.some((t) => t.id === id)).toBe(false);
    expect(between.transitions.slice(at, at + 2)).toMatchObject([
      { id: "in", from: ["Ready"], to: "new", requirements: named("Start building").requirements },
      { id: "out", from: ["new"], to: "Building", verb: "Start building", requirements: [] },
    ]);
    const first = addState(workflow, null, {
      id: "new",
      name: "Idea",
      kind: "unstarted",
      stage: null,
      moveIds: ["in", "out"],
    });
    expect(statesInOrder(first)[0]).toMatchObject({ id: "new", position: 0 });
    expect(first.transitions).toEqual(workflow.transitions);
  });

  test.each<[string | null, string, string]>([
    ["Ready", "Backlog", "Put back"],
    ["Building", "Live", "Finish"],
    ["In test", "Ready", "Back to Ready"],
    ["Ready", "In test", "Start in test"],
    ["Ready", "Waiting for test", "Hand to waiting for test"],
    [null, "In test", "Start in test"],
  ])("from %s to %s one may “%s”", (from, to, verb) =>
    expect(proposedVerb(from === null ? null : state(from), state(to))).toBe(verb),
  );
});

test("a copy is the same process with ids of its own, in its conditions too", () => {
  const about = (value: Condition): Transition["requirements"] => [
    { kind: "condition", condition: value },
    { kind: "reason" },
  ];
  const compare = (
    fact: "stateId" | "everIn" | "typeId",
    op: "is" | "contains" | "one of",
    value: string | string[],
  ): Condition => ({ kind: "compare", fact, op, value }) as Condition;
  const original: Workflow = {
    ...withMove("Pull", {
      requirements: about({
        kind: "all",
        of: [
          { kind: "not", of: compare("stateId", "is", "Building") },
          { kind: "any", of: [compare("everIn", "contains", "Ready")] },
          compare("stateId", "one of", ["Live", "Closed"]),
          compare("typeId", "is", "Building"),
          { kind: "compare", fact: "stateId", op: "is", value: { fact: "stateId" } } as Condition,
        ],
      }),
    }),
    states: workflow.states.map((s) => ({
      ...s,
      entryPolicies: [{ id: `in ${s.id}`, text: "Sized" }],
      exitPolicies: [{ id: `out ${s.id}`, text: "Tested" }],
    })),
  };
  let n = 0;
  const copy = copyOf(original, () => `id-${n++}`, "Twin");
  const idOf = (name: string) => copy.states.find((s) => s.name === name)!.id;
  expect(copy).toMatchObject({ name: "Twin", version: 1 });
  expect(copyOf(original, () => `id-${n++}`).name).toBe(original.name);
  const ids = [
    copy.id,
    ...copy.states.map((s) => s.id),
    ...copy.states.flatMap((s) => [...s.entryPolicies, ...s.exitPolicies].map((p) => p.id)),
    ...copy.transitions.map((t) => t.id),
  ];
  expect(new Set(ids).size).toBe(ids.length);
  expect(ids.every((id) => id.startsWith("id-"))).toBe(true);
  expect(copy.states.map((s) => s.entryPolicies[0].text)).toEqual(copy.states.map(() => "Sized"));
  const pulled = copy.transitions.find((t) => t.verb === "Pull")!;
  expect(pulled).toMatchObject({ from: [idOf("Backlog")], to: idOf("Ready") });
  expect(copy.transitions.find((t) => t.verb === "Close")).toMatchObject({ from: null });
  expect(pulled.requirements).toEqual(
    about({
      kind: "all",
      of: [
        { kind: "not", of: compare("stateId", "is", idOf("Building")) },
        { kind: "any", of: [compare("everIn", "contains", idOf("Ready"))] },
        compare("stateId", "one of", [idOf("Live"), idOf("Closed")]),
        compare("typeId", "is", "Building"),
        { kind: "compare", fact: "stateId", op: "is", value: { fact: "stateId" } } as Condition,
      ],
    }),
  );
});
