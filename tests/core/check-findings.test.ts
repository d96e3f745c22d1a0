import type { Condition } from "@/core/condition/condition";
import { checkWorkflow } from "@/core/workflow/check";
import {
  addState,
  changeState,
  changeTransition,
  moveState,
  removeState,
} from "@/core/workflow/edit";
import type { CheckSurroundings, DraftRepair } from "@/core/workflow/finding";
import { repair } from "@/core/workflow/repair";
import type { Requirement } from "@/core/workflow/requirements/table";
import type { State } from "@/core/workflow/state";
import type { Transition, Workflow } from "@/core/workflow/workflow";
import { VOCABULARY } from "./setup/conditions";
import { atMost, workflow } from "./setup/make";

const AROUND: CheckSurroundings = {
  vocabulary: {
    ...VOCABULARY,
    states: workflow.states.map((s) => ({ id: s.id, name: s.name, workflowName: workflow.name })),
  },
  peopleOfTeam: { ticketing: 3 },
  leads: 1,
  workers: 5,
  unshown: {},
};

/** What a check says, with where and the repair that it offers. */
const said = (w: Workflow, around: Partial<CheckSurroundings> = {}) =>
  checkWorkflow(w, { ...AROUND, ...around }).map(({ severity, code, sentence, place, repair }) => {
    const verb = w.transitions.find((t) => t.id === place.transitionId)?.verb;
    const where = place.stateId ?? verb ?? "the workflow";
    return `${severity}, ${code}, at ${where}: ${sentence}${repair ? ` → ${repair.words}` : ""}`;
  });

const moveOf = (verb: string) => workflow.transitions.find((t) => t.verb === verb)!;
const withMove = (verb: string, change: Partial<Transition>, of = workflow) =>
  changeTransition(of, moveOf(verb).id, change);
const withState = (name: string, change: Partial<State>) => changeState(workflow, name, change);
const demanding = (...requirements: Requirement[]) => withMove("Start review", { requirements });
const when = (condition: Condition) => demanding({ kind: "condition", condition });
const without = (...verbs: string[]): Workflow => ({
  ...workflow,
  transitions: workflow.transitions.filter((t) => !verbs.includes(t.verb)),
});
const compare = (fact: string, op: string, value: unknown): Condition =>
  ({ kind: "compare", fact, op, value }) as Condition;
const added = (after: string, change: Partial<State> & { name: string }) =>
  changeState(
    addState(workflow, after, {
      id: "new",
      name: change.name,
      kind: change.kind ?? "waiting",
      stage: null,
      moveIds: ["in", "out"],
    }),
    "new",
    change,
  );

test("against the process of the demo nothing is said", () => expect(said(workflow)).toEqual([]));

test.each<[string, Workflow, string[], Partial<CheckSurroundings>?]>([
  [
    "no unstarted state",
    { ...workflow, states: workflow.states.slice(-1), transitions: [] },
    [
      "trap, no start, at the workflow: There is no unstarted state, so a new item has nowhere to be.",
    ],
  ],
  [
    "no finished state",
    { ...workflow, states: workflow.states.slice(0, 1), transitions: [] },
    ["trap, no end, at the workflow: There is no finished state, so nothing can ever be done."],
  ],
  [
    "an unstarted state that is not first",
    moveState(workflow, "Backlog", 1),
    ["trap, start not first, at Ready: New items begin in the first state; Ready is waiting."],
  ],
  [
    "a state that nothing leads to",
    added("Closed", { name: "Island", kind: "finished" }),
    ["weak, unreachable, at new: Nothing leads to Island. → Add a move from Ready to deploy"],
  ],
  [
    "a state that nothing leads out of",
    without("Start test", "Close"),
    [
      "trap, no way out, at Waiting for test: From Waiting for test no finished state can be reached: items would be stuck there. → Add a move to In test",
      "weak, unreachable, at In test: Nothing leads to In test. → Add a move from Waiting for test",
      "weak, unreachable, at Closed: Nothing leads to Closed. → Add a move from Waiting for test",
      "weak, nobody pulls, at Waiting for test: Nobody pulls from Waiting for test: no move leads from it to a state where somebody works. → Add a move to In test",
    ],
  ],
  [
    "two states of one name",
    withState("Ready", { name: " BUILDING " }),
    ["weak, same name, at Building: Two states are called Building. → Call this one Building 2"],
  ],
  [
    "two moves of one verb",
    withMove("Put back", { verb: " start BUILDING " }),
    [
      "weak, same verb, at  start BUILDING : Two moves from Ready are called “ start BUILDING ”: nobody can tell which is which. → Call it “start BUILDING to Backlog”",
    ],
  ],
  [
    "work that nothing leads back from",
    without("Fail and send back"),
    [
      "weak, no way back, at In test: When work in In test fails, nothing leads back. → Add a move back to In review",
    ],
  ],
  [
    "what no board shows, and nothing is in",
    workflow,
    ["hint, not on a board, at Ready: No board shows Ready. → Put them on the board"],
    { unshown: { Ready: 0, "of another workflow": 4 } },
  ],
  [
    "what no board shows, and items are in: one finding for all of it",
    workflow,
    [
      "weak, not on a board, at Ready: No board shows Ready and In test, 1 item is there. → Put them on the board",
    ],
    { unshown: { "In test": 1, Ready: 0 } },
  ],
  [
    "so many states that no board shows",
    workflow,
    [
      "weak, not on a board, at Ready: No board shows 4 states, 5 items are there. → Put them on the board",
    ],
    { unshown: { Ready: 1, Building: 2, "In review": 2, "In test": 0 } },
  ],
  [
    "a team that is gone",
    withState("In test", { teamId: "pirates" }),
    [
      "weak, team gone, at In test: The team that is named at In test does not exist any more. → Take the team out of it",
    ],
  ],
  [
    "a team of nobody",
    withState("In test", { teamId: "quayside" }),
    [
      "weak, team without people, at In test: Quayside is named at In test, but nobody of it is in this project. → Take Quayside out of it",
    ],
  ],
  [
    "a limit below the team",
    withState("In test", { teamId: "ticketing", limit: atMost(2, false) }),
    [
      "hint, limit below team, at In test: In test takes 2, but 3 people of Ticketing work there: some will have nothing to do. → Take 3",
    ],
  ],
  [
    "a limit of the team",
    withState("In test", { teamId: "ticketing", limit: atMost(3, false) }),
    [],
  ],
  [
    "a limit of sizes below the team",
    withState("In test", { teamId: "ticketing", limit: { ...atMost(2, false), unit: "size" } }),
    [],
  ],
  ["a team without a limit", withState("In test", { teamId: "ticketing" }), []],
  [
    "too old before it is expected to leave",
    withState("In test", { expectedDays: 5, tooOldDays: 2 }),
    [
      "weak, too old before expected, at In test: In In test an item is too old after 2 days, before it is even expected to leave (5). → Too old after 5 days",
    ],
  ],
  ["too old when it is expected", withState("In test", { expectedDays: 5, tooOldDays: 5 }), []],
  ["expected, and never too old", withState("In test", { expectedDays: 5 }), []],
  ["too old, and never expected", withState("In test", { tooOldDays: 5 }), []],
  [
    "a condition that never holds",
    when({
      kind: "all",
      of: [compare("estimate", "more than", 5), compare("estimate", "less than", 3)],
    }),
    [
      "weak, never holds, at Start review: “Start review” to In review has a condition that can never hold. → Take the condition out",
    ],
  ],
  [
    "a condition on a state that it cannot come from",
    when({
      kind: "all",
      of: [compare("typeId", "is", "bug"), compare("stateId", "one of", ["Live", "Ready"])],
    }),
    [
      "weak, never holds, at Start review: “Start review” to In review wants the item to be in a state it cannot come from. → Take the condition out",
    ],
  ],
  [
    "one on the state that it comes from",
    when(compare("stateId", "one of", ["Live", "Waiting for review"])),
    [],
  ],
  [
    "one that is not finished",
    demanding({ kind: "condition", condition: { kind: "unread", text: "item.blocked &" } }),
    [
      "trap, unfinished condition, at Start review: “Start review” to In review has a condition that is not finished: “item.blocked &”. Character 14: Write && between two comparisons. → Take the condition out",
    ],
  ],
  ["one on another state than that", when(compare("stateId", "is not", "Live")), []],
  ["one on where it ever was", when(compare("everIn", "contains", "Live")), []],
  [
    "a condition on who looks",
    when({ kind: "not", of: compare("assigneeId", "is", { who: "me" }) }),
    [
      "trap, asks who looks, at Start review: “Start review” to In review asks who looks (me, my teams); a rule is the same for everybody. Say who may make the move instead. → Take the condition out",
    ],
  ],
  [
    "a condition on how promises stand",
    when(compare("promise", "is", "missed")),
    [
      "trap, asks for promises, at Start review: “Start review” to In review asks how a promise stands; that is for views and their filters, not for rules. → Take the condition out",
    ],
  ],
  [
    "names that the project does not have",
    when({
      kind: "any",
      of: [
        compare("typeId", "one of", ["bug", "boat"]),
        compare("teamId", "is", "pirates"),
        { kind: "not", of: compare("everIn", "contains", "x".repeat(30)) },
        compare("severity", "is set", null),
        compare("priority", "is", "high"),
      ],
    }),
    [
      "weak, unknown name, at Start review: “Start review” to In review asks for a type (boat), which the project does not have. → Take the condition out",
      "weak, unknown name, at Start review: “Start review” to In review asks for a team (pirates), which the project does not have. → Take the condition out",
      `weak, unknown name, at Start review: “Start review” to In review asks for a state (${"x".repeat(20)}), which the project does not have. → Take the condition out`,
    ],
  ],
  [
    "an outcome where nothing ends",
    demanding({ kind: "outcome", allowed: ["delivered"] }),
    [
      "weak, outcome without end, at Start review: “Start review” to In review asks for an outcome, but In review is not a finished state. → Do not ask for it",
    ],
  ],
  [
    "outcomes that the state does not allow",
    withState("Live", { outcomes: ["declined"] }),
    [
      "weak, contradiction, at Deploy: “Deploy” to Live offers outcomes that Live does not allow. → Offer what Live allows",
    ],
  ],
  ["outcomes of which it allows one", withState("Live", { outcomes: ["obsolete"] }), []],
  [
    "approvals by a team that is gone",
    demanding({ kind: "approvals", count: 1, role: null, teamId: "pirates" }),
    [
      "weak, team gone, at Start review: The team that is named at “Start review” to In review does not exist any more. → Take the team out of it",
    ],
  ],
  [
    "more approvals than leads",
    demanding({ kind: "approvals", count: 2, role: "lead", teamId: null }),
    [
      "weak, too few to approve, at Start review: “Start review” to In review needs 2 approvals, but there is 1 person who could give them. → Ask for 1",
    ],
  ],
  [
    "as many as there are leads",
    demanding({ kind: "approvals", count: 1, role: "lead", teamId: null }),
    [],
  ],
  [
    "as many as a team has",
    demanding({ kind: "approvals", count: 3, role: "lead", teamId: "ticketing" }),
    [],
  ],
  [
    "more than anybody",
    demanding({ kind: "approvals", count: 6, role: null, teamId: null }),
    [
      "weak, too few to approve, at Start review: “Start review” to In review needs 6 approvals, but there are 5 people who could give them. → Ask for 5",
    ],
  ],
  [
    "a checklist of nothing",
    demanding({ kind: "checklist" }),
    [
      "hint, empty checklist, at Start review: “Start review” to In review wants the agreement ticked, but nothing is agreed there. → Do not ask for it",
    ],
  ],
  [
    "a checklist of what is agreed on leaving",
    withMove(
      "Start review",
      { requirements: [{ kind: "checklist" }] },
      withState("Waiting for review", { exitPolicies: [{ id: "p", text: "Read" }] }),
    ),
    [],
  ],
  [
    "a checklist of what is agreed on entering",
    withMove(
      "Start review",
      { requirements: [{ kind: "checklist" }] },
      withState("In review", { entryPolicies: [{ id: "p", text: "Read" }] }),
    ),
    [],
  ],
  [
    "the same demand twice",
    demanding({ kind: "reason" }, { kind: "comment" }, { kind: "reason" }),
    [
      "hint, asked twice, at Start review: “Start review” to In review asks for the same thing twice. → Ask once",
    ],
  ],
  [
    "a field that is asked for and cleared",
    withMove("Start review", {
      requirements: [{ kind: "filled", field: "estimate" }],
      followUps: [{ kind: "set field", change: { field: "estimate", value: null } }],
    }),
    [
      "hint, cleared at once, at Start review: “Start review” to In review asks for a field and clears it at once.",
    ],
  ],
  [
    "a field that is asked for and set, another that is cleared",
    withMove("Start review", {
      requirements: [{ kind: "filled", field: "estimate" }],
      followUps: [
        { kind: "set field", change: { field: "estimate", value: 3 } },
        { kind: "set field", change: { field: "reviewerId", value: null } },
      ],
    }),
    [],
  ],
  [
    "a move for a team that is gone",
    withMove("Start review", { who: [{ kind: "team", teamId: "pirates" }] }),
    [
      "weak, team gone, at Start review: The team that is named at “Start review” to In review does not exist any more. → Take the team out of it",
    ],
  ],
  [
    "a move for a team of nobody",
    withMove("Start review", { who: [{ kind: "team", teamId: "quayside" }] }),
    [
      "weak, team without people, at Start review: Quayside is named at “Start review” to In review, but nobody of it is in this project. → Take Quayside out of it",
    ],
  ],
  [
    "a team of nobody, or somebody else",
    withMove("Start review", { who: [{ kind: "team", teamId: "quayside" }, { kind: "assignee" }] }),
    [],
  ],
  [
    "a move for leads where there are none",
    withMove("Start review", { who: [{ kind: "role", role: "lead" }] }),
    [
      "weak, role without people, at Start review: “Start review” to In review is for leads, and the project has none.",
    ],
    { leads: 0 },
  ],
  [
    "one for leads where there is one",
    withMove("Start review", { who: [{ kind: "role", role: "lead" }] }),
    [],
  ],
  [
    "one for members where there are no leads",
    withMove("Start review", { who: [{ kind: "role", role: "member" }] }),
    [],
    { leads: 0 },
  ],
  [
    "a move for the assignee of what has none",
    withMove("Start review", {
      who: [{ kind: "assignee" }],
      requirements: [
        {
          kind: "condition",
          condition: {
            kind: "all",
            of: [compare("typeId", "is", "bug"), compare("assigneeId", "is empty", null)],
          },
        },
      ],
    }),
    [
      "weak, contradiction, at Start review: “Start review” to In review is for the assignee, but wants items without one.",
    ],
  ],
  [
    "the same for others too, or for what may have one",
    withMove("Start review", {
      who: [{ kind: "assignee" }, { kind: "reviewer" }],
      requirements: [{ kind: "condition", condition: compare("assigneeId", "is empty", null) }],
    }),
    [],
  ],
  [
    "for the assignee of what has no reviewer",
    withMove("Start review", {
      who: [{ kind: "assignee" }],
      requirements: [{ kind: "condition", condition: compare("reviewerId", "is empty", null) }],
    }),
    [],
  ],
])("%s", (_what, w, findings, ...around) => expect(said(w, around[0])).toEqual(findings));

test("the worst comes first, whatever the order of the process", () => {
  const bad = withMove(
    "Pull",
    { requirements: [{ kind: "checklist" }] },
    when(compare("assigneeId", "is", { who: "me" })),
  );
  const severities = said({
    ...bad,
    states: withState("Live", { outcomes: ["declined"] }).states,
  }).map((s) => s.split(",")[0]);
  expect(severities).toEqual(["trap", "weak", "hint"]);
});

test("one wait may lead into another, and a delivery may pull from it", () => {
  expect(said(added("Waiting for test", { name: "Booked", kind: "waiting" }))).toEqual([]);
  expect(said(removeState(workflow, "In test")).filter((s) => s.includes("nobody pulls"))).toEqual([
    "weak, nobody pulls, at Waiting for test: Nobody pulls from Waiting for test: no move leads from it to a state where somebody works. → Add a move to Live",
  ]);
});

describe("what happens by itself", () => {
  const byItself = (...moves: [verb: string, triggers: Transition["triggers"]][]) =>
    moves.reduce((w, [verb, triggers]) => withMove(verb, { triggers }, w), workflow);

  test("two moves out of one state that wait for the same: the first is made", () => {
    const deployed = (environment: string): Transition["triggers"] => [
      { kind: "deployed", environment },
    ];
    expect(
      said(
        byItself(["Pass test", deployed("Harbour")], ["Fail and send back", deployed("harbour")]),
      ),
    ).toEqual([
      "weak, triggers compete, at Fail and send back: Out of In test both “Pass test” and “Fail and send back” happen by themselves when it is deployed to Harbour: only one of them ever will.",
    ]);
    expect(
      said(byItself(["Pass test", deployed("harbour")], ["Fail and send back", deployed("sea")])),
    ).toEqual([]);
    expect(
      said(
        byItself(
          ["Pass test", [{ kind: "checks passed" }, { kind: "review approved" }]],
          ["Fail and send back", [{ kind: "checks failed" }, { kind: "review approved" }]],
        ),
      ),
    ).toEqual([
      "weak, triggers compete, at Fail and send back: Out of In test both “Pass test” and “Fail and send back” happen by themselves when its change is approved in review: only one of them ever will.",
    ]);
  });

  test("round and round with time alone, told once", () => {
    const wait = (days: number): Transition["triggers"] => [{ kind: "days in state", days }];
    expect(said(byItself(["Hand to review", wait(3)], ["Take back", wait(5)]))).toEqual([
      "weak, moves chase each other, at Hand to review: Items would go round for ever by themselves: “Hand to review” to Waiting for review, then “Take back” to Building, and on again.",
    ]);
    expect(
      said(byItself(["Hand to review", wait(3)], ["Take back", [{ kind: "change opened" }]])),
    ).toEqual([]);
  });

  test("an item and the one above it that reopen and finish each other", () => {
    const chase = (
      reopen: "parent finished" | "sub-tasks finished",
      close: "parent finished" | "sub-tasks finished",
    ) => said(byItself(["Deploy", [{ kind: close }]], ["Reopen", [{ kind: reopen }]]));
    const told = [
      "weak, moves chase each other, at Reopen: “Reopen” and “Deploy” set each other off: an item above and one below it would finish and reopen one another for ever.",
    ];
    expect(chase("parent finished", "sub-tasks finished")).toEqual(told);
    expect(chase("sub-tasks finished", "parent finished")).toEqual(told);
    expect(chase("parent finished", "parent finished")).toEqual(told);
    expect(said(byItself(["Reopen", [{ kind: "parent finished" }]]))).toEqual([]);
    expect(
      said(
        byItself(
          ["Deploy", [{ kind: "sub-tasks finished" }]],
          ["Pull", [{ kind: "parent finished" }]],
        ),
      ),
    ).toEqual([]);
  });
});

describe("fields of the project's own that moves ask for", () => {
  const value = VOCABULARY.own.find((f) => f.id === "f-value")!;
  const of = (own: typeof VOCABULARY.own, requirement: Requirement) =>
    said(demanding(requirement), {
      vocabulary: {
        ...AROUND.vocabulary,
        own,
        types: [
          { id: "bug", name: "Bug", workflowId: workflow.id },
          { id: "story", name: "Story", workflowId: workflow.id },
          { id: "request", name: "Request", workflowId: workflow.id },
          { id: "task", name: "Task", workflowId: "other" },
        ],
      },
    });
  const filled: Requirement = { kind: "filled", field: "own.f-value" };
  const asked: Requirement = {
    kind: "condition",
    condition: compare("own.number.f-value", "at least", 3),
  };

  test("are there", () => {
    expect(of([value], filled)).toEqual([]);
    expect(of([value], asked)).toEqual([]);
  });
  test("were taken out, or never were", () => {
    const gone = { ...value, removedAt: 4 };
    const named = "and rules still name it at “Start review” to In review. →";
    expect(of([gone], filled)).toEqual([
      `weak, field gone, at Start review: “Value lost per week” was taken out, ${named} Take Value lost per week out of the rules`,
    ]);
    const never = `weak, field gone, at Start review: A field was taken out, ${named} Take it out of the rules`;
    expect(of([], filled)).toEqual([never]);
    expect(of([], asked)).toEqual([never]);
    expect(of([gone], asked)).toEqual(of([gone], filled));
  });
  test("taken out, it is one finding wherever it is named, and mended everywhere at once", () => {
    const own = [{ ...value, removedAt: 4 }];
    const around = { ...AROUND, vocabulary: { ...AROUND.vocabulary, own } };
    const sets: Transition["followUps"] = [
      { kind: "set field", change: { field: "own", fieldId: "f-value", value: 3 } },
      { kind: "set field", change: { field: "priority", value: "high" } },
    ];
    const kept: Requirement = { kind: "no blocker" };
    const named: [string, Partial<Transition>][] = [
      ["Start review", { requirements: [kept, filled, asked] }],
      ["Pass review", { requirements: [filled] }],
      ["Pass test", { followUps: sets }],
    ];
    const ruled = named.reduce((w, [verb, change]) => withMove(verb, change, w), workflow);
    const found = checkWorkflow(ruled, around).filter((f) => f.code === "field gone");
    expect(found.map((f) => f.sentence)).toEqual([
      "“Value lost per week” was taken out, and rules still name it at “Start review” to In review, “Pass review” to Waiting for test and “Pass test” to Ready to deploy.",
    ]);
    const mended = repair(ruled, { repair: found[0].repair as DraftRepair }, () => "new");
    const after = (verb: string) => mended.transitions.find((t) => t.verb === verb)!;
    expect(after("Start review").requirements).toEqual([kept]);
    expect(after("Pass review").requirements).toEqual([]);
    expect(after("Pass test").followUps).toEqual([sets[1]]);
    expect(checkWorkflow(mended, around).filter((f) => f.code === "field gone")).toEqual([]);
  });
  test("are no type's, or some types'", () => {
    expect(of([{ ...value, typeIds: ["task"] }], filled)).toEqual([
      "weak, field of no type, at Start review: “Value lost per week” is to be filled in at “Start review” to In review, and no type of this workflow has it. → Take Value lost per week out of the rules",
    ]);
    expect(of([{ ...value, typeIds: ["bug"] }], filled)).toEqual([
      "hint, field of some types, at Start review: “Value lost per week” is to be filled in at “Start review” to In review; Story and Request do not have it and are not asked.",
    ]);
  });
});

describe("a repair mends what it is offered for, and nothing else", () => {
  const mended = (w: Workflow, code: string, change: Partial<CheckSurroundings> = {}) => {
    const around = { ...AROUND, ...change };
    const found = checkWorkflow(w, around).find((f) => f.code === code)!;
    const after = repair(w, { repair: found.repair as DraftRepair }, () => "new");
    expect(checkWorkflow(after, around).map((f) => f.code)).not.toContain(code);
    return after;
  };
  const newMove = (w: Workflow) => {
    const { id, from, to, verb } = w.transitions.at(-1)!;
    return [id, from, to, verb];
  };

  test("ways that are missing: back to the last work before it, on to the next work or the end", () => {
    const stuck = mended(without("Fail and send back"), "no way back");
    expect(newMove(stuck)).toEqual(["new", ["In test"], "In review", "Send back to In review"]);
    const waiting = without("Start test");
    const pulled = mended(waiting, "nobody pulls");
    expect(newMove(pulled)).toEqual(["new", ["Waiting for test"], "In test", "To In test"]);
    expect(pulled.transitions.slice(0, -1)).toEqual(waiting.transitions);
    expect(pulled.states).toEqual(waiting.states);
  });
  test("fewer approvals, and only of those that are too many", () => {
    const two: Requirement[] = [
      { kind: "approvals", count: 1, role: "lead", teamId: null },
      { kind: "no blocker" },
      { kind: "approvals", count: 9, role: null, teamId: null },
    ];
    const after = mended(demanding(...two), "too few to approve");
    expect(after.transitions.find((t) => t.verb === "Start review")!.requirements).toEqual([
      two[0],
      two[1],
      { ...two[2], count: 5 },
    ]);
  });
  test("nobody of a team is one finding of the team, and none of the number", () => {
    const w = demanding({ kind: "approvals", count: 1, role: null, teamId: "quayside" });
    const codes = checkWorkflow(w, AROUND).map((f) => f.code);
    expect(codes).toEqual(["team without people"]);
    const none = checkWorkflow(
      demanding({ kind: "approvals", count: 1, role: "lead", teamId: null }),
      {
        ...AROUND,
        leads: 0,
      },
    ).find((f) => f.code === "too few to approve")!;
    expect(none.repair).toBeNull();
  });
  test("a limit below the team, and nothing else of the limit", () => {
    const limit = { max: 2, firm: true, min: 1, minFirm: true };
    const w = withState("In test", { teamId: "ticketing", limit });
    const after = mended(w, "limit below team");
    expect(after.states.find((s) => s.name === "In test")!.limit).toEqual({ ...limit, max: 3 });
  });
  test("a way back need not be one of the board: from work to an earlier wait of another stage is enough", () => {
    const back = (to: string) =>
      checkWorkflow(withMove("Fail and send back", { to }), AROUND).map((f) => f.code);
    expect(back("Waiting for review")).not.toContain("no way back");
    expect(back("Backlog")).toContain("no way back");
  });
});

test("rules that exclude each other are told of the second, whatever stands between", () => {
  const open: Requirement = {
    kind: "condition",
    condition: compare("openChildren", "at least", 1),
  };
  const found = (...rules: Requirement[]) =>
    checkWorkflow(demanding(...rules), AROUND).filter((f) => f.code === "contradiction");
  const [one] = found(open, { kind: "no blocker" }, { kind: "sub-tasks finished" });
  expect(one).toMatchObject({
    severity: "weak",
    repair: { kind: "remove requirement", index: 2, words: "Take the second out" },
  });
  expect(found(open, { kind: "no blocker" })).toEqual([]);
  const empty = (field: string): Requirement => ({
    kind: "condition",
    condition: compare(field, "is empty", null),
  });
  expect(found({ kind: "filled", field: "estimate" }, empty("estimate"))).toHaveLength(1);
  expect(found({ kind: "filled", field: "estimate" }, empty("dueOn"))).toEqual([]);
  expect(found({ kind: "filled", field: "own.f-value" }, empty("own.number.f-value"))).toHaveLength(
    1,
  );
  expect(found({ kind: "filled", field: "own.f-value" }, empty("own.number.f-weeks"))).toEqual([]);
  expect(
    found({ kind: "no blocker" }, { kind: "condition", condition: compare("blocked", "is", true) }),
  ).toHaveLength(1);
});

test("a move for the assignee alone that wants items without one is told; with others it is not", () => {
  const nobody: Requirement = {
    kind: "condition",
    condition: compare("assigneeId", "is empty", null),
  };
  const codes = (who: Transition["who"], ...requirements: Requirement[]) =>
    checkWorkflow(withMove("Start review", { who, requirements }), AROUND).map((f) => f.code);
  expect(codes([{ kind: "assignee" }], { kind: "no blocker" }, nobody)).toContain("contradiction");
  expect(codes([{ kind: "reviewer" }], nobody)).not.toContain("contradiction");
  expect(codes([{ kind: "assignee" }, { kind: "reviewer" }], nobody)).not.toContain(
    "contradiction",
  );
  expect(codes([], nobody)).not.toContain("contradiction");
  expect(codes([{ kind: "assignee" }], { kind: "no blocker" })).not.toContain("contradiction");
});
