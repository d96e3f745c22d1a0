import fc from "fast-check";
import { checkWorkflow } from "@/core/workflow/check";
import { repair } from "@/core/workflow/repair";
import type { CheckSurroundings, DraftRepair } from "@/core/workflow/finding";
import { workflowSchema } from "@/core/workflow/definition";
import { differences } from "@/core/workflow/difference";
import {
  addState,
  changeState,
  changeTransition,
  connect,
  disconnect,
  freeName,
  moveState,
  removeState,
} from "@/core/workflow/edit";
import { detourOf, lineY, mapOf } from "@/core/workflow/layout";
import { mergeWorkflows, takeMine } from "@/core/workflow/merge";
import { neverHolds } from "@/core/workflow/contradiction";
import { parseCel } from "@/core/condition/cel-parse";
import { fromTemplate } from "@/core/workflow/template";
import { PROJECT_TEMPLATES } from "@/core/workflow/templates";
import { SUB_TASKS } from "@/core/workflow/templates/sub-tasks";
import {
  statesInOrder,
  transitionBetween,
  transitionsFrom,
  type Workflow,
} from "@/core/workflow/workflow";
import type { Requirement } from "@/core/workflow/requirements/table";
import { VOCABULARY } from "./setup/conditions";
import { atMost, workflow } from "./setup/make";

const around: CheckSurroundings = {
  vocabulary: VOCABULARY,
  peopleOfTeam: { ticketing: 3, quayside: 0 },
  leads: 1,
  workers: 6,
  unshown: {},
};
const codes = (w: Workflow, change: Partial<CheckSurroundings> = {}) =>
  checkWorkflow(w, { ...around, ...change }).map((f) => `${f.severity}: ${f.code}`);
const add = (w: Workflow, after: string | null, name = "Waiting for the harbour") =>
  addState(w, after, { id: "new", name, kind: "waiting", stage: "Deploy", moveIds: ["in", "out"] });
const names = (w: Workflow) => statesInOrder(w).map((s) => s.name);
const to = (target: string) =>
  workflow.transitions.find((t) => t.to === target && t.from !== null)!.id;

describe("designing", () => {
  test("a state between two others takes over the move and its rules; the way on is free", () => {
    const changed = add(workflow, "Waiting for review");
    expect(transitionBetween(changed, "Waiting for review", "In review")).toBeUndefined();
    expect(transitionBetween(changed, "Waiting for review", "new")!.requirements).toHaveLength(2);
    expect(transitionBetween(changed, "new", "In review")!.requirements).toEqual([]);
    expect(names(changed).slice(3, 6)).toEqual([
      "Waiting for review",
      "Waiting for the harbour",
      "In review",
    ]);
  });
  test("where the move led on from several states, the others keep their way", () => {
    const several = changeTransition(workflow, to("In review"), {
      from: ["Waiting for review", "Ready"],
    });
    const changed = add(several, "Waiting for review");
    expect(transitionBetween(changed, "Ready", "In review")!.requirements).toHaveLength(2);
    expect(transitionBetween(changed, "Waiting for review", "In review")).toBeUndefined();
  });
  test("a new name is never that of another state", () => {
    expect(freeName(workflow, "building")).toBe("building 2");
    expect(names(add(add(workflow, null, "X"), null, "X"))).toContain("X 2");
  });
  test("a state that goes takes its moves along; a move from several keeps the others", () => {
    const several = changeTransition(workflow, to("Waiting for review"), {
      from: ["Building", "Ready"],
    });
    const without = removeState(several, "Building");
    expect(
      without.transitions.some((t) => t.to === "Building" || t.from?.includes("Building")),
    ).toBe(false);
    expect(transitionBetween(without, "Ready", "Waiting for review")).toBeDefined();
    expect(statesInOrder(without).map((s) => s.position)).toEqual(without.states.map((_, i) => i));
  });
  test("connecting twice is connecting once, and disconnecting takes one source away", () => {
    const once = connect(workflow, { id: "x", from: "Ready", to: "Live", verb: "Wave through" });
    expect(connect(once, { id: "y", from: "Ready", to: "Live", verb: "Again" })).toBe(once);
    expect(disconnect(once, "Ready", "Live").transitions).toEqual(workflow.transitions);
  });
  test("any walk of edits leaves a document that can be stored and read back as it was", () => {
    const edit = fc.oneof(
      fc.tuple(fc.constant("add"), fc.nat(30)),
      fc.tuple(fc.constant("remove"), fc.nat(30)),
      fc.tuple(fc.constant("move"), fc.nat(30)),
      fc.tuple(fc.constant("connect"), fc.nat(900)),
    );
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 25 }), (edits) => {
        let w: Workflow = workflow;
        let n = 0;
        for (const [what, k] of edits) {
          const ids = w.states.map((s) => s.id);
          const at = ids[k % ids.length];
          if (what === "add")
            w = addState(w, at, {
              id: `n${n++}`,
              name: "Step",
              kind: "working",
              stage: null,
              moveIds: [`a${n}`, `b${n}`],
            });
          else if (what === "remove" && ids.length > 1) w = removeState(w, at);
          else if (what === "move") w = moveState(w, at, (k % 7) - 3);
          else if (what === "connect")
            w = connect(w, { id: `c${n++}`, from: at, to: ids[(k >> 3) % ids.length], verb: "Go" });
        }
        expect(workflowSchema.parse(JSON.parse(JSON.stringify(w)))).toEqual(w);
        expect(statesInOrder(w).map((s) => s.position)).toEqual(w.states.map((_, i) => i));
      }),
    );
  });
});

describe("the check", () => {
  test("has nothing to say against the demo's process", () => expect(codes(workflow)).toEqual([]));

  const stuck = {
    ...workflow,
    transitions: workflow.transitions.filter((t) => t.from !== null && !t.from.includes("In test")),
  };
  test.each<[string, Workflow, string, Partial<CheckSurroundings>?]>([
    ["no unstarted state", removeState(workflow, "Backlog"), "trap: no start"],
    [
      "an unstarted state that is not first",
      moveState(workflow, "Backlog", 3),
      "trap: start not first",
    ],
    ["no finished state", removeState(removeState(workflow, "Live"), "Closed"), "trap: no end"],
    ["a state without a way out", stuck, "trap: no way out"],
    ["a state nothing leads to", add(workflow, "Closed", "Island"), "weak: unreachable"],
    [
      "a working state without a way back",
      {
        ...workflow,
        transitions: workflow.transitions.filter((t) => t.verb !== "Fail and send back"),
      },
      "weak: no way back",
    ],
    [
      "a waiting state nobody pulls from",
      { ...workflow, transitions: workflow.transitions.filter((t) => t.verb !== "Start test") },
      "weak: nobody pulls",
    ],
    [
      "two states of one name",
      changeState(workflow, "Ready", { name: "building" }),
      "weak: same name",
    ],
    [
      "two moves of one verb",
      changeTransition(workflow, to("Backlog"), { verb: "START BUILDING" }),
      "weak: same verb",
    ],
    ["a state no board shows", workflow, "hint: not on a board", { unshown: { Building: 0 } }],
    [
      "a team that is gone",
      changeState(workflow, "In test", { teamId: "pirates" }),
      "weak: team gone",
    ],
    [
      "a team without people",
      changeState(workflow, "In test", { teamId: "quayside" }),
      "weak: team without people",
    ],
    [
      "a limit below the team",
      changeState(workflow, "In test", { teamId: "ticketing", limit: atMost(2, false) }),
      "hint: limit below team",
    ],
    [
      "too old before it is expected",
      changeState(workflow, "In test", { expectedDays: 5, tooOldDays: 2 }),
      "weak: too old before expected",
    ],
    [
      "a condition that never holds",
      changeTransition(workflow, to("In review"), {
        requirements: [
          {
            kind: "condition",
            condition: parseCel("item.estimate > 5 && item.estimate < 3", VOCABULARY).condition!,
          },
        ],
      }),
      "weak: never holds",
    ],
    [
      "a condition on who looks",
      changeTransition(workflow, to("In review"), {
        requirements: [
          {
            kind: "condition",
            condition: parseCel("!(item.assignee == me)", VOCABULARY).condition!,
          },
        ],
      }),
      "trap: asks who looks",
    ],
    [
      "a condition on another state than it comes from",
      changeTransition(workflow, to("In review"), {
        requirements: [
          {
            kind: "condition",
            condition: { kind: "compare", fact: "stateId", op: "is", value: "Live" },
          },
        ],
      }),
      "weak: never holds",
    ],
    [
      "a type the project does not have",
      changeTransition(workflow, to("In review"), {
        requirements: [
          {
            kind: "condition",
            condition: { kind: "compare", fact: "typeId", op: "is", value: "boat" },
          },
        ],
      }),
      "weak: unknown name",
    ],
    [
      "an outcome where nothing ends",
      changeTransition(workflow, to("In review"), {
        requirements: [{ kind: "outcome", allowed: ["delivered"] }],
      }),
      "weak: outcome without end",
    ],
    [
      "outcomes the state does not allow",
      changeState(workflow, "Live", { outcomes: ["declined"] }),
      "weak: contradiction",
    ],
    [
      "more approvals than people",
      changeTransition(workflow, to("In review"), {
        requirements: [{ kind: "approvals", count: 2, role: "lead", teamId: null }],
      }),
      "weak: too few to approve",
    ],
    [
      "a checklist of nothing",
      changeTransition(workflow, to("In review"), { requirements: [{ kind: "checklist" }] }),
      "hint: empty checklist",
    ],
    [
      "the same demand twice",
      changeTransition(workflow, to("In review"), {
        requirements: [{ kind: "reason" }, { kind: "reason" }],
      }),
      "hint: asked twice",
    ],
    [
      "a field asked for and cleared",
      changeTransition(workflow, to("In review"), {
        requirements: [{ kind: "filled", field: "estimate" }],
        followUps: [{ kind: "set field", change: { field: "estimate", value: null } }],
      }),
      "hint: cleared at once",
    ],
    [
      "a move for a team of nobody",
      changeTransition(workflow, to("In review"), { who: [{ kind: "team", teamId: "quayside" }] }),
      "weak: team without people",
    ],
    [
      "a move for the assignee of what has none",
      changeTransition(workflow, to("In review"), {
        who: [{ kind: "assignee" }],
        requirements: [
          {
            kind: "condition",
            condition: parseCel("item.assignee == null", VOCABULARY).condition!,
          },
        ],
      }),
      "weak: contradiction",
    ],
  ])("sees %s", (_what, w, expected, ...more) => expect(codes(w, more[0])).toContain(expected));

  /** A team in a state and in all that a move can say of one. */
  const inOneTeam = (teamId: string) =>
    changeTransition(changeState(workflow, "In test", { teamId }), to("In review"), {
      who: [{ kind: "team", teamId }],
      requirements: [{ kind: "approvals", count: 1, role: null, teamId }],
      followUps: [
        { kind: "assign", to: { kind: "in turn", teamId } },
        { kind: "tell", whom: [{ kind: "team", teamId }, { kind: "leads" }], text: "Look" },
      ],
    });

  test("one cause is one finding, whatever it is behind; what only tells others too is none", () => {
    const found = checkWorkflow(inOneTeam("quayside"), around);
    expect(found.map((f) => f.sentence)).toEqual([
      "Quayside is named at In test and “Start review” to In review, but nobody of it is in this project.",
    ]);
    const mended = repair(
      inOneTeam("quayside"),
      { repair: found[0].repair as DraftRepair },
      () => "",
    );
    expect(mended.transitions.find((t) => t.verb === "Start review")).toMatchObject({
      who: [],
      requirements: [{ kind: "approvals", teamId: null }],
      followUps: [{ kind: "tell", whom: [{ kind: "leads" }] }],
    });
    const toldToo = changeTransition(workflow, to("In review"), {
      followUps: [
        {
          kind: "tell",
          whom: [{ kind: "team", teamId: "quayside" }, { kind: "leads" }],
          text: "x",
        },
      ],
    });
    expect(codes(toldToo)).toEqual([]);
  });

  const rule = (text: string): Requirement => ({
    kind: "condition",
    condition: parseCel(text, VOCABULARY).condition!,
  });
  test.each<[string, Requirement[], string]>([
    [
      "a field that is wanted and not wanted",
      [{ kind: "filled", field: "estimate" }, rule("item.estimate == null")],
      "“Start review” to In review can never be made: “needs an estimate” and “only when the estimate is not set” exclude each other.",
    ],
    [
      "two conditions that exclude each other",
      [rule('item.type == "Bug"'), rule('item.type == "Story"')],
      "“Start review” to In review can never be made: “only when the type is Bug” and “only when the type is Story” exclude each other.",
    ],
    [
      "a blocker that is wanted and forbidden",
      [{ kind: "no blocker" }, rule("item.blocked")],
      "“Start review” to In review can never be made: “nothing blocks it” and “only when it is blocked” exclude each other.",
    ],
    [
      "a reviewer who may not be there",
      [
        { kind: "different people", first: "reviewerId", second: "assigneeId" },
        rule("item.reviewer == null"),
      ],
      "“Start review” to In review can never be made: “the reviewer is not the assignee” and “only when the reviewer is not set” exclude each other.",
    ],
  ])("rules of one move exclude each other: %s", (_what, requirements, sentence) => {
    const w = changeTransition(workflow, to("In review"), { requirements });
    const found = checkWorkflow(w, around);
    expect(found.map((f) => f.sentence)).toEqual([sentence]);
    expect(codes(repair(w, { repair: found[0].repair as DraftRepair }, () => "fresh"))).toEqual([]);
  });

  test("every repair it offers mends its finding", () => {
    const broken = [
      removeState(workflow, "Ready"),
      stuck,
      add(workflow, "Closed", "Island"),
      changeTransition(workflow, to("In review"), {
        requirements: [{ kind: "reason" }, { kind: "reason" }, { kind: "checklist" }],
      }),
      { ...workflow, transitions: workflow.transitions.filter((t) => t.verb !== "Start test") },
      changeState(workflow, "Ready", { name: "building" }),
      changeTransition(workflow, to("Backlog"), { verb: "START BUILDING" }),
      changeState(workflow, "In test", { teamId: "ticketing", limit: atMost(2, false) }),
      changeState(workflow, "In test", { expectedDays: 5, tooOldDays: 2 }),
      changeTransition(workflow, to("In review"), {
        requirements: [{ kind: "approvals", count: 2, role: "lead", teamId: null }],
      }),
      inOneTeam("quayside"),
      inOneTeam("pirates"),
    ];
    let repaired = 0;
    for (const w of broken)
      for (const f of checkWorkflow(w, around)) {
        if (!f.repair || f.repair.kind === "show workflow") continue;
        const after = checkWorkflow(
          repair(w, { repair: f.repair }, () => "fresh"),
          around,
        );
        expect(after.filter((x) => x.sentence === f.sentence).length).toBeLessThan(
          checkWorkflow(w, around).filter((x) => x.sentence === f.sentence).length,
        );
        repaired += 1;
      }
    expect(repaired).toBeGreaterThan(14);
  });
});

describe("a contradiction", () => {
  test.each([
    ['item.type == "Bug" && item.type == "Story"', true],
    ['item.type == "Bug" && item.type != "Bug"', true],
    ['item.type in ["Bug", "Story"] && item.type != "Bug"', false],
    ["item.estimate == null && item.estimate > 1", true],
    ["item.estimate > 3 && item.estimate <= 3", true],
    ["item.estimate >= 3 && item.estimate <= 3", false],
    ["item.due < day(0) && item.due > day(3)", true],
    ['item.due < day(0) && item.due > "2026-01-01"', false],
    ["item.blocked && !item.blocked", true],
    ['"Building" in item.was_in && !("Building" in item.was_in)', true],
    ['item.assignee == me && item.assignee == "Noor Bakri"', false],
    ["(item.estimate > 3 && item.estimate < 2) || item.blocked", false],
    ["(item.estimate > 3 && item.estimate < 2) || (item.blocked && !item.blocked)", true],
    ["false", true],
    ["true", false],
  ])("%s: %s", (text, expected) =>
    expect(neverHolds(parseCel(text, VOCABULARY).condition!)).toBe(expected),
  );
});

describe("the difference in words", () => {
  const words = (w: Workflow) => differences(workflow, w, VOCABULARY).map((d) => d.sentence);
  test("nothing for the same, and for other ids in the same order of states", () =>
    expect(words({ ...workflow, states: [...workflow.states].reverse() })).toEqual([]));
  test("a renamed state is the same state, a new one is new, one that goes is gone", () => {
    expect(
      words(changeState(workflow, "Ready", { name: "To pull", limit: atMost(4, true) })),
    ).toEqual(["Ready is called To pull.", "The limit of To pull is at most 4, firm (was none)."]);
    expect(words(add(workflow, "In test"))).toEqual([
      "New state Waiting for the harbour, waiting in Deploy.",
      "New move “Pass test” from In test to Waiting for the harbour.",
      "New move “Pass test” from Waiting for the harbour to Ready to deploy.",
      "The move “Pass test” from In test to Ready to deploy is gone.",
    ]);
    expect(words(removeState(workflow, "Closed"))[0]).toBe("Closed is gone.");
  });
  test("a rule is told in full", () => {
    expect(
      words(
        changeTransition(workflow, to("In review"), {
          who: [{ kind: "not the assignee" }],
          requirements: [{ kind: "no blocker" }],
          followUps: [{ kind: "assign", to: { kind: "mover" } }],
        }),
      ),
    ).toEqual([
      "The move “Start review” from Waiting for review to In review, from now on: only for anyone but the assignee; nothing blocks it; then gives it to whoever moves it. Not any more: needs a reviewer; the reviewer is not the assignee.",
    ]);
  });
});

describe("two leads at once", () => {
  const renamed = changeState(workflow, "Ready", { name: "To pull" });
  test("what only one changed is taken, whoever it was", () => {
    const { workflow: merged, clashes } = mergeWorkflows(
      workflow,
      add(workflow, "In test"),
      renamed,
    );
    expect(clashes).toEqual([]);
    expect(names(merged)).toEqual(names(add(renamed, "In test")));
  });
  test("what both changed differently stays as the first had it, and is told", () => {
    const { workflow: merged, clashes } = mergeWorkflows(
      workflow,
      changeState(workflow, "Ready", { name: "Mine" }),
      renamed,
    );
    expect(merged.states.find((s) => s.id === "Ready")!.name).toBe("To pull");
    expect(clashes.map((c) => c.words)).toEqual(["the name of To pull"]);
  });
  test("a state that one took out and the other changed is told; its moves lead nowhere broken", () => {
    const { workflow: merged, clashes } = mergeWorkflows(
      workflow,
      removeState(workflow, "Ready"),
      renamed,
    );
    expect(clashes.map((c) => c.words)).toEqual(["To pull, which you took out"]);
    expect(workflowSchema.safeParse(merged).success).toBe(true);
  });
  test("both may change one state as long as it is not the same of it", () => {
    const mine = changeState(workflow, "Ready", { expectedDays: 3 });
    const { workflow: merged, clashes } = mergeWorkflows(workflow, mine, renamed);
    expect(clashes).toEqual([]);
    expect(merged.states.find((s) => s.id === "Ready")).toMatchObject({
      name: "To pull",
      expectedDays: 3,
    });
  });
  test("whose it is can be chosen afterwards: of a field, of what one took out, of a name", () => {
    const mine = {
      ...removeState(changeState(workflow, "Ready", { name: "Mine" }), "In review"),
      name: "My process",
    };
    const theirs = {
      ...changeState(renamed, "In review", { tooOldDays: 9 }),
      name: "Their process",
    };
    const { workflow: merged, clashes } = mergeWorkflows(workflow, mine, theirs);
    expect(clashes.map((c) => c.words)).toEqual([
      "the name of To pull",
      "In review, which you took out",
      "the name of the workflow",
    ]);
    const chosen = clashes.reduce((w, clash) => takeMine(w, clash, mine), merged);
    expect(chosen).toEqual(mine);
  });
  test("a state that the other one took out comes back with its moves and in its place", () => {
    const mine = changeState(workflow, "In review", { tooOldDays: 9 });
    const theirs = removeState(workflow, "In review");
    const { workflow: merged, clashes } = mergeWorkflows(workflow, mine, theirs);
    expect(clashes.map((c) => c.words)).toEqual(["In review, which they took out"]);
    expect(merged).toEqual(theirs);
    const back = takeMine(merged, clashes[0], mine);
    expect(names(back)).toEqual(names(mine));
    expect(back.states).toEqual(mine.states);
    const sorted = (w: Workflow) => w.transitions.map((t) => t.id).sort();
    expect(sorted(back)).toEqual(sorted(mine));
  });
  test("with nobody else's change the merge is mine, with none of mine it is theirs", () => {
    const mine = moveState(add(renamed, "Building"), "new", 1);
    expect(mergeWorkflows(workflow, mine, workflow)).toEqual({ workflow: mine, clashes: [] });
    expect(mergeWorkflows(workflow, workflow, mine)).toEqual({ workflow: mine, clashes: [] });
  });
});

test("on the map no two lines over one stretch lie on each other, and every move is drawn or told", () => {
  const map = mapOf(
    connect(connect(workflow, { id: "a", from: "Ready", to: "Live", verb: "Skip" }), {
      id: "b",
      from: "Backlog",
      to: "In test",
      verb: "Jump",
    }),
  );
  const index = new Map(map.stations.map((s, i) => [s.state.id, i]));
  const spans = map.tracks
    .filter((t) => t.course !== "main")
    .map((t) => ({
      y: lineY(map, t),
      from: Math.min(index.get(t.from)!, index.get(t.to)!),
      to: Math.max(index.get(t.from)!, index.get(t.to)!),
    }));
  for (const [i, a] of spans.entries())
    for (const b of spans.slice(i + 1))
      if (a.y === b.y) expect(a.to < b.from || b.to < a.from).toBe(true);
  expect(spans.every((s) => s.y > 0 && s.y < map.height)).toBe(true);
  // Those that end at one state end beside each other, outside of its mark and its name.
  const ends = map.tracks
    .filter((t) => t.course !== "main")
    .map((t) => {
      const [from, to] = [t.from, t.to].map((id) => map.stations[index.get(id)!]);
      return { course: t.course, at: to, end: detourOf(map, t, from, to).to };
    });
  for (const { course, at, end } of ends) {
    const beyond = course === "under" ? end.y - at.y : at.y - end.y;
    expect(beyond).toBeGreaterThan((course === "under") === at.nameAbove ? 12 : 40);
    const same = ends.filter((e) => e.course === course && e.at === at && e.end.x === end.x);
    expect(same).toHaveLength(1);
  }
  expect(map.tracks.length + map.fromAnywhere.length).toBe(workflow.transitions.length + 2);
  expect(transitionsFrom(workflow, "Ready").length).toBeGreaterThan(2);
});

describe.each([...PROJECT_TEMPLATES, SUB_TASKS])("the template “$name”", (template) => {
  let n = 0;
  const made = fromTemplate(template, () => `id-${n++}`);
  test("is a whole process: nothing to mend, and it can be stored and read back", () => {
    expect(checkWorkflow(made, around).filter((f) => f.severity !== "hint")).toEqual([]);
    expect(workflowSchema.parse(JSON.parse(JSON.stringify(made)))).toEqual(made);
  });
  test("is drawn without a line upon another", () => {
    const map = mapOf(made);
    expect(new Set(map.stations.map((s) => s.x)).size).toBe(made.states.length);
    expect(map.tracks.length).toBe(
      made.transitions.reduce((sum, t) => sum + (t.from?.length ?? 0), 0),
    );
  });
});
