import type { MoveAnswers } from "@/core/item/command";
import { ITEM_FIELDS, type DemandedItemField, type ItemSnapshot } from "@/core/item/fields";
import { decideMove, requirementsOf, whoMay } from "@/core/workflow/decide-move";
import type { MoveContext } from "@/core/workflow/decide-move";
import type { LinkedChange } from "@/core/item/outside";
import { isRefusal, type Refusal } from "@/core/workflow/refusal";
import type { Mover } from "@/core/workflow/requirement";
import type { Requirement } from "@/core/workflow/requirements/table";
import { stateOf, type Transition } from "@/core/workflow/workflow";
import { OWN_FIELDS, VOCABULARY } from "./setup/conditions";
import { context, Subject, workflow } from "./setup/make";

const NAMES: Record<string, string> = { ticketing: "Ticketing", quayside: "Quayside" };
const around = (change: Partial<MoveContext> = {}) =>
  context({
    vocabulary: VOCABULARY,
    ownFields: OWN_FIELDS,
    teamName: (id) => NAMES[id] ?? id,
    teamsOf: (id) => (id === "mei" ? ["quayside"] : []),
    ...change,
  });

/** An item that Noor builds. */
const built = new Subject().move("Ready").move("Building", { assigneeId: "noor" }).item!;

/** The move out of Building, with some demands and agreements. */
function move(
  requirements: Requirement[],
  {
    item = {},
    answers = {},
    change = {},
    who = [],
    overrideReason,
    policies = [],
  }: {
    item?: Partial<ItemSnapshot>;
    answers?: MoveAnswers;
    change?: Partial<MoveContext>;
    who?: Mover[];
    overrideReason?: string;
    policies?: { id: string; text: string }[];
  } = {},
) {
  const demanding = {
    ...workflow,
    states: workflow.states.map((s) =>
      s.id === "Building" ? { ...s, exitPolicies: policies } : s,
    ),
    transitions: workflow.transitions.map((t) =>
      t.to === "Waiting for review" ? { ...t, requirements, who } : t,
    ),
  };
  return decideMove(
    { ...built, ...item },
    { from: "Building", to: "Waiting for review", answers, overrideReason },
    around({ workflow: demanding, ...change }),
  );
}

const refused = (result: ReturnType<typeof move>): Refusal => {
  if (!isRefusal(result)) throw new Error("it was allowed");
  return result;
};
const allowed = (result: ReturnType<typeof move>) => {
  if (isRefusal(result)) throw new Error(result.sentence);
  return result;
};

const change = (of: Partial<LinkedChange>): LinkedChange => ({
  id: "41",
  status: "merged",
  checks: "passed",
  review: null,
  ...of,
});
const outside = (...changes: LinkedChange[]) => ({
  outside: { changes, deployedTo: [], testResult: null },
});
const by = (byId: string, role: "lead" | "member" = "member") => ({ byId, role, at: 1 });
const approvals = (
  count: number,
  role: "lead" | "member" | null = null,
  teamId: string | null = null,
): Requirement => ({ kind: "approvals", count, role, teamId });

/** Each demand with an item that does not meet it: what is said, and what would help. */
test.each<[string, Requirement, Parameters<typeof move>[1], string, string, string]>([
  [
    "approvals of nobody",
    approvals(1),
    {},
    "approvals",
    "It needs one more approval.",
    "Ask somebody other than Noor: they press Approve on the item.",
  ],
  [
    "two of three",
    approvals(3),
    { item: { approvals: [by("ivo")] } },
    "approvals",
    "It needs 2 more approvals.",
    "Ask people other than Noor: they press Approve on the item.",
  ],
  [
    "one's own",
    approvals(1),
    { item: { approvals: [by("noor", "lead")] } },
    "approvals",
    "It needs one more approval.",
    "other than Noor",
  ],
  [
    "the same twice",
    approvals(2),
    { item: { approvals: [by("ivo"), by("ivo")] } },
    "approvals",
    "It needs one more approval.",
    "Ask somebody",
  ],
  [
    "a member's where a lead's is wanted",
    approvals(1, "lead"),
    { item: { approvals: [by("ivo")] } },
    "approvals",
    "It needs one more approval.",
    "Ask a lead other than Noor",
  ],
  [
    "of another team",
    approvals(2, "lead", "quayside"),
    { item: { approvals: [by("ivo", "lead")], assigneeId: null } },
    "approvals",
    "It needs 2 more approvals.",
    "Ask leads of Quayside other than the assignee",
  ],
  [
    "an open change",
    { kind: "change merged", checks: true },
    { item: outside(change({ status: "open" }), change({ id: "42" })) },
    "change open",
    "Change 41 is not merged yet.",
    "Merge it first, or give it up where the code is kept.",
  ],
  [
    "open changes",
    { kind: "change merged", checks: false },
    { item: outside(change({ status: "open" }), change({ id: "42", status: "open" })) },
    "change open",
    "2 of its changes are not merged yet.",
    "Merge it first",
  ],
  [
    "no change",
    { kind: "change merged", checks: false },
    { item: outside(change({ status: "abandoned" })) },
    "change open",
    "No merged change belongs to it.",
    "Name this item in the change that does the work, and merge it.",
  ],
  [
    "a failed check",
    { kind: "change merged", checks: true },
    { item: outside(change({ checks: "failed" })) },
    "change open",
    "A check of its changes failed.",
    "Mend what failed; the move is free once the checks pass.",
  ],
  [
    "running checks",
    { kind: "change merged", checks: true },
    { item: outside(change({ checks: "running" })) },
    "change open",
    "The checks of its changes have not passed yet.",
    "Wait for them, or start them where the code is kept.",
  ],
  [
    "a point of the agreement",
    { kind: "checklist" },
    { policies: [{ id: "p", text: "Tested" }] },
    "checklist",
    "One point of the agreement is open.",
    "Tick what is true; what is not true is still to be done.",
  ],
  [
    "two points",
    { kind: "checklist" },
    {
      policies: [
        { id: "p", text: "Tested" },
        { id: "q", text: "Told" },
      ],
    },
    "checklist",
    "2 points of the agreement are open.",
    "Tick what is true",
  ],
  [
    "no comment",
    { kind: "comment" },
    { answers: { comment: "  " } },
    "comment missing",
    "This move leaves a comment.",
    "Write what the next person should know.",
  ],
  [
    "a blocker",
    { kind: "no blocker" },
    { item: { openBlockers: [{ id: "b", cause: "storm", waitingFor: null, since: 1 }] } },
    "blocked",
    "It is blocked: storm.",
    "Lift the blocker first, when it is gone.",
  ],
  [
    "an open sub-task",
    { kind: "sub-tasks finished" },
    { change: { around: { ...context().around, openChildren: 1 } } },
    "sub-tasks open",
    "One child is not finished.",
    "Finish them first, or close what is not wanted any more.",
  ],
  [
    "open sub-tasks",
    { kind: "sub-tasks finished" },
    { change: { around: { ...context().around, openChildren: 3 } } },
    "sub-tasks open",
    "3 children are not finished.",
    "Finish them first",
  ],
  [
    "a field of the project's own",
    { kind: "filled", field: "own.f-value" },
    {},
    "field missing",
    "It needs “Value lost per week”.",
    "Say how many pounds.",
  ],
  [
    "one without a unit",
    { kind: "filled", field: "own.f-route" },
    {},
    "field missing",
    "It needs “Route”.",
    "Fill it in.",
  ],
  [
    "a value that does not fit",
    { kind: "filled", field: "own.f-value" },
    { answers: { own: { "f-value": "many" } } },
    "invalid",
    "“Value lost per week” is a number.",
    "Give it another value.",
  ],
  [
    "another kind of item",
    {
      kind: "condition",
      condition: { kind: "compare", fact: "typeId", op: "is", value: "bug" },
    },
    {},
    "condition",
    "This move is for other items.",
    "It is made when the type is Bug.",
  ],
])("refused: %s", (_what, requirement, of, code, sentence, help) => {
  expect(refused(move([requirement], of))).toMatchObject({
    code,
    sentence,
    help: expect.stringContaining(help),
  });
});

/** And with one that does. */
test.each<[string, Requirement, Parameters<typeof move>[1]]>([
  ["enough approvals", approvals(2), { item: { approvals: [by("ivo"), by("mei")] } }],
  ["a lead's for a member's", approvals(1, "member"), { item: { approvals: [by("ivo", "lead")] } }],
  ["a lead's", approvals(1, "lead"), { item: { approvals: [by("ivo", "lead")] } }],
  ["of the team", approvals(1, null, "quayside"), { item: { approvals: [by("mei")] } }],
  [
    "merged, with failed checks that nobody asks for",
    { kind: "change merged", checks: false },
    { item: outside(change({ checks: "failed" })) },
  ],
  [
    "merged and passed",
    { kind: "change merged", checks: true },
    { item: outside(change({}), change({ id: "9", status: "abandoned", checks: "failed" })) },
  ],
  ["no agreement", { kind: "checklist" }, {}],
  [
    "an agreement that is ticked, before and now",
    { kind: "checklist" },
    {
      policies: [
        { id: "p", text: "Tested" },
        { id: "q", text: "Told" },
      ],
      item: { ticks: [{ policyId: "p", byId: "ivo", at: 1 }] },
      answers: { ticks: ["q"] },
    },
  ],
  ["no blocker", { kind: "no blocker" }, {}],
  ["no sub-task", { kind: "sub-tasks finished" }, {}],
  ["a field that items of this type have not", { kind: "filled", field: "own.gone" }, {}],
  [
    "an own field that is filled",
    { kind: "filled", field: "own.f-note" },
    { item: { own: { "f-note": "x" } } },
  ],
])("allowed: %s", (_what, requirement, of) => {
  expect(isRefusal(move([requirement], of))).toBe(false);
});

test.each(
  (Object.keys(ITEM_FIELDS) as (keyof typeof ITEM_FIELDS)[]).flatMap((field) =>
    "demand" in ITEM_FIELDS[field] ? [field as DemandedItemField] : [],
  ),
)("%s is demanded in its own words, and asked for in place", (field) => {
  const { sentence, help, label } = ITEM_FIELDS[field].demand;
  const empty = { item: { [field]: null } as Partial<ItemSnapshot> };
  expect(refused(move([{ kind: "filled", field }], empty))).toMatchObject({
    code: "field missing",
    sentence,
    help,
    asks: [{ field, label }],
  });
});

describe("answers", () => {
  test("of all demands are asked for together, each once; what no answer mends comes first", () => {
    const demands: Requirement[] = [
      { kind: "filled", field: "reviewerId" },
      { kind: "different people", first: "reviewerId", second: "assigneeId" },
      { kind: "comment" },
      { kind: "reason" },
    ];
    const asked = refused(move(demands, { item: { reviewerId: "noor" } }));
    expect(asked).toMatchObject({ code: "same person", sentence: "Review needs a second person." });
    expect(asked.asks.map((a) => a.field)).toEqual(["reviewerId", "comment", "reason"]);
    expect(asked.asks[0]).toMatchObject({ not: "noor", label: "Reviewer" });
    const blocked = refused(move([...demands, approvals(1)], { item: { reviewerId: null } }));
    expect(blocked).toMatchObject({ code: "approvals", asks: [] });
  });

  test("a reviewer is asked for where there is none, by the rule that it is another one too", () => {
    const demands: Requirement[] = [
      { kind: "different people", first: "reviewerId", second: "assigneeId" },
    ];
    const asked = refused(move(demands, { item: { reviewerId: null } }));
    expect(asked).toMatchObject({
      code: "field missing",
      sentence: "It has no reviewer.",
      asks: [{ field: "reviewerId", not: "noor" }],
    });
    const answers = { reviewerId: "ivo" };
    expect(allowed(move(demands, { item: { reviewerId: null }, answers }))).toMatchObject({
      changes: { reviewerId: "ivo" },
    });
  });

  test("to what is not asked have no effect, those that are set what they say", () => {
    const answers: MoveAnswers = {
      reviewerId: " ivo ",
      howToTest: "not asked",
      comment: " Mind the tide. ",
      reason: " late ",
      own: { "f-value": 3, "f-note": "not asked" },
      ticks: ["p", "q", "elsewhere"],
    };
    const made = allowed(
      move(
        [
          { kind: "different people", first: "reviewerId", second: "assigneeId" },
          { kind: "comment" },
          { kind: "filled", field: "own.f-value" },
        ],
        {
          answers,
          policies: [
            { id: "p", text: "Tested" },
            { id: "q", text: "Told" },
          ],
        },
      ),
    );
    expect(made).toMatchObject({
      changes: { reviewerId: "ivo" },
      own: { "f-value": 3 },
      ticked: [
        { id: "p", text: "Tested" },
        { id: "q", text: "Told" },
      ],
      comment: "Mind the tide.",
      reason: "late",
    });
    expect(Object.keys(made.changes)).toEqual(["reviewerId"]);
  });

  test("that say nothing are none", () => {
    const made = allowed(move([], { answers: { reason: "  ", comment: "not asked" } }));
    expect(made).toMatchObject({ reason: null, comment: null, changes: {}, own: {}, ticked: [] });
  });

  test("what was ticked before is not ticked again", () => {
    const made = allowed(
      move([], {
        policies: [{ id: "p", text: "Tested" }],
        item: { ticks: [{ policyId: "p", byId: "ivo", at: 1 }] },
        answers: { ticks: ["p"] },
      }),
    );
    expect(made.ticked).toEqual([]);
  });

  test("a finished item keeps its outcome on the way to another finished state, and loses it otherwise", () => {
    const closed = new Subject().move("Closed", { outcome: "obsolete" }).item!;
    const archive = {
      ...workflow,
      states: [...workflow.states, { ...workflow.states.at(-1)!, id: "Archive", name: "Archive" }],
      transitions: [
        ...workflow.transitions,
        {
          ...workflow.transitions[0],
          id: "t-archive",
          from: ["Closed"],
          to: "Archive",
          verb: "Put away",
        },
      ],
    };
    const to = (state: string, answers: MoveAnswers = {}) =>
      decideMove(closed, { from: "Closed", to: state, answers }, around({ workflow: archive }));
    expect(to("Archive")).toMatchObject({ refused: false, changes: {} });
    expect(to("Backlog", { reason: "again" })).toMatchObject({ changes: { outcome: null } });
  });
});

describe("who may make a move", () => {
  const transition = (who: Mover[]) => ({ ...workflow.transitions[0], verb: "Pull", who });
  const item: ItemSnapshot = { ...built, assigneeId: "noor", reviewerId: "ivo", createdBy: "mei" };
  const asked = (
    who: Mover[],
    actor: Partial<MoveContext["actor"]> = {},
    of: Partial<ItemSnapshot> = {},
  ) =>
    whoMay(
      transition(who),
      { ...item, ...of },
      around({ actor: { personId: "mei", role: "member", teamIds: ["quayside"], ...actor } }),
    );
  const nobody = { assigneeId: null, reviewerId: null };

  test.each<[Mover[], Partial<MoveContext["actor"]>, Partial<ItemSnapshot>, string]>([
    [[{ kind: "role", role: "lead" }], {}, {}, "a lead"],
    [[{ kind: "team", teamId: "ticketing" }], {}, {}, "somebody of Ticketing"],
    [[{ kind: "assignee" }], {}, {}, "Noor"],
    [[{ kind: "assignee" }], {}, nobody, "its assignee"],
    [[{ kind: "reviewer" }], {}, {}, "Ivo"],
    [[{ kind: "reviewer" }], {}, nobody, "its reviewer"],
    [[{ kind: "requester" }], {}, { createdBy: "ivo" }, "whoever asked for it"],
    [[{ kind: "not the assignee" }], { personId: "noor" }, {}, "somebody other than Noor"],
    [[{ kind: "assignee" }, { kind: "reviewer" }], {}, {}, "Noor or Ivo"],
    [[{ kind: "role", role: "member" }], { personId: null, requester: true }, {}, "a member"],
    [[], { personId: null, requester: true }, {}, ""],
  ])("%j, asked by %j of %j: refused", (who, actor, of, words) => {
    const refusal = asked(who, actor, of);
    expect(refusal).toMatchObject({
      code: "not for you",
      sentence: `“Pull” is for ${words}.`,
      help: `Ask ${words} to do it.`,
    });
  });

  test.each<[Mover[], Partial<MoveContext["actor"]>, Partial<ItemSnapshot>]>([
    [[], {}, {}],
    [[{ kind: "role", role: "member" }], {}, {}],
    [[{ kind: "role", role: "lead" }], { role: "lead" }, {}],
    [[{ kind: "team", teamId: "quayside" }], {}, {}],
    [[{ kind: "assignee" }], { personId: "noor" }, {}],
    [[{ kind: "reviewer" }], { personId: "ivo" }, {}],
    [[{ kind: "not the assignee" }], {}, {}],
    [[{ kind: "requester" }], {}, {}],
    [[{ kind: "requester" }], { personId: null, requester: true }, {}],
    [[{ kind: "requester" }], { personId: "noor", requester: true }, {}],
    [[{ kind: "role", role: "lead" }], { personId: null }, {}],
    [[{ kind: "role", role: "lead" }, { kind: "assignee" }], { personId: "noor" }, {}],
  ])("%j, asked by %j of %j: allowed", (who, actor, of) =>
    expect(asked(who, actor, of)).toBeNull(),
  );

  test("a move that is somebody else's is refused with who", () =>
    expect(refused(move([], { who: [{ kind: "reviewer" }] }))).toMatchObject({
      code: "not for you",
    }));
});

describe("the outcome of a finished state", () => {
  const live = {
    ...workflow.states.find((s) => s.id === "Live")!,
    outcomes: ["delivered" as const],
  };
  const open = {
    ...workflow.states.find((s) => s.id === "Ready")!,
    outcomes: ["delivered" as const],
  };
  const plain = { ...workflow.transitions[0], requirements: [] };
  const ready = stateOf(workflow, "Ready");
  const asked = [{ kind: "outcome", allowed: ["delivered"] }];

  test("is asked for by the state where the move does not ask or set it", () => {
    expect(requirementsOf(plain, ready, live)).toEqual(asked);
    expect(requirementsOf(plain, ready, { ...live, outcomes: [] })).toEqual([]);
    expect(requirementsOf(plain, ready, open)).toEqual([]);
    const own: Requirement[] = [{ kind: "outcome", allowed: ["obsolete"] }];
    expect(requirementsOf({ ...plain, requirements: own }, ready, live)).toEqual(own);
    expect(
      requirementsOf(
        { ...plain, followUps: [{ kind: "set outcome", outcome: "obsolete" }] },
        ready,
        live,
      ),
    ).toEqual([]);
  });
});

describe("what is agreed between two states", () => {
  const points = (id: string) => [{ id, text: id }];
  const [ready, building] = ["Ready", "Building"].map((id) => stateOf(workflow, id));
  const agreed = { ...building, entryPolicies: points("into") };
  const left = { ...ready, exitPolicies: points("out") };
  const move = { ...workflow.transitions[0], from: ["Ready"], requirements: [] };
  const ticks = [{ kind: "checklist" }];

  test.each([
    ["entering asks", move, ready, agreed, ticks],
    ["leaving asks", move, left, building, ticks],
    ["nothing is agreed", move, ready, building, []],
    ["the move asks itself: once", { ...move, requirements: ticks }, left, agreed, ticks],
    ["on the way back nothing asks", move, { ...agreed, exitPolicies: points("x") }, left, []],
    ["nor where it is closed from anywhere", { ...move, from: null }, left, agreed, []],
  ])("%s", (_, transition, from, to, asked) => {
    expect(requirementsOf(transition as Transition, from, to)).toEqual(asked);
  });
});

describe("no such move", () => {
  const from = (state: string, to: string, of = workflow) =>
    decideMove(
      { ...built, stateId: state },
      { from: state, to, answers: {} },
      around({ workflow: of }),
    );

  test("says where it can go, without what leads from anywhere", () =>
    expect(from("Building", "Live")).toMatchObject({
      code: "no such move",
      sentence: "This workflow has no move from Building to Live.",
      help: "From Building it can go to Waiting for review or Ready.",
    }));

  test("to a state that is gone, and out of one that nothing leads out of", () => {
    expect(from("Building", "Gone")).toMatchObject({
      sentence: "This workflow has no move from Building to there.",
    });
    const dead = { ...workflow, transitions: workflow.transitions.filter((t) => t.from === null) };
    expect(from("Building", "Live", dead)).toMatchObject({
      help: "Nothing leads out of Building.",
    });
  });

  test("an item that was moved meanwhile says where it is", () => {
    expect(
      decideMove(built, { from: "Ready", to: "Building", answers: {} }, around()),
    ).toMatchObject({
      code: "moved meanwhile",
      sentence: "Somebody has moved it to Building meanwhile.",
      help: "Look at it where it is now, then move it again if that is still right.",
    });
  });
});
