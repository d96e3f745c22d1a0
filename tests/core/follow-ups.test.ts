import type { ItemChange, ItemEvent } from "@/core/item/event";
import type { ItemSnapshot } from "@/core/item/fields";
import type { LinkedChange, OutsideFact } from "@/core/item/outside";
import { followUpChanges, NO_FOLLOW_UP_CONTEXT } from "@/core/workflow/follow-ups/apply";
import type { FollowUpContext } from "@/core/workflow/follow-ups/kind";
import {
  FOLLOW_UP_KINDS,
  followUpKindOf,
  followUpSchema,
  followUpWords,
  newFollowUp,
  type FollowUp,
} from "@/core/workflow/follow-ups/table";
import { occurrencesOf, triggeredTransition } from "@/core/workflow/occurrence";
import {
  newTrigger,
  occurrenceWords,
  TRIGGER_KINDS,
  triggerKindOf,
  triggerSchema,
  triggerWords,
  type Occurrence,
  type Trigger,
} from "@/core/workflow/trigger";
import { VOCABULARY } from "./setup/conditions";
import { Subject, workflow } from "./setup/make";

const building: ItemSnapshot = {
  ...new Subject().move("Ready").move("Building", { assigneeId: "ivo" }).item!,
  priority: "normal",
  own: { "f-note": "ropes" },
  createdBy: "mei",
  reviewerId: "hanna",
};
const around: FollowUpContext = {
  actorId: "noor",
  previousAssigneeId: "jonah",
  leastLoaded: { ticketing: "ruth", quayside: null },
  nextInTurn: { ticketing: "lukas", quayside: null },
  waitsFor: [],
  newBlockId: () => "b1",
  newCommentId: () => "comment",
};
const nobody: FollowUpContext = {
  ...NO_FOLLOW_UP_CONTEXT,
  leastLoaded: { quayside: null },
  nextInTurn: { quayside: null },
};
const toAssignee = (id: string | null): ItemChange[] => [
  { kind: "changed", field: "assigneeId", old: "ivo", new: id },
];

/** Each follow-up with its sentence and what it changes on the item itself. */
test.each<[FollowUp, string, ItemChange[]]>([
  [
    { kind: "set field", change: { field: "priority", value: "high" } },
    "sets the priority to high",
    [{ kind: "changed", field: "priority", old: "normal", new: "high" }],
  ],
  [
    { kind: "set field", change: { field: "priority", value: "normal" } },
    "sets the priority to normal",
    [],
  ],
  [
    { kind: "set field", change: { field: "reviewerId", value: null } },
    "clears the reviewer",
    [{ kind: "changed", field: "reviewerId", old: "hanna", new: null }],
  ],
  [
    { kind: "set field", change: { field: "teamId", value: "ticketing" } },
    "sets the team to Ticketing",
    [{ kind: "changed", field: "teamId", old: null, new: "ticketing" }],
  ],
  [
    { kind: "set field", change: { field: "own", fieldId: "f-skipper", value: "noor" } },
    "sets “Skipper” to Noor Bakri",
    [{ kind: "own changed", field: "f-skipper", old: null, new: "noor" }],
  ],
  [
    { kind: "set field", change: { field: "own", fieldId: "f-note", value: null } },
    "clears “Note for the deck”",
    [{ kind: "own changed", field: "f-note", old: "ropes", new: null }],
  ],
  [
    { kind: "set field", change: { field: "own", fieldId: "gone", value: null } },
    "sets a field that is gone",
    [],
  ],
  [
    { kind: "assign", to: { kind: "person", personId: "noor" } },
    "gives it to Noor Bakri",
    toAssignee("noor"),
  ],
  [
    { kind: "assign", to: { kind: "person", personId: "left" } },
    "gives it to somebody gone",
    toAssignee("left"),
  ],
  [{ kind: "assign", to: { kind: "nobody" } }, "takes the assignee off", toAssignee(null)],
  [{ kind: "assign", to: { kind: "mover" } }, "gives it to whoever moves it", toAssignee("noor")],
  [{ kind: "assign", to: { kind: "creator" } }, "gives it to its creator", toAssignee("mei")],
  [{ kind: "assign", to: { kind: "reviewer" } }, "gives it to the reviewer", toAssignee("hanna")],
  [
    { kind: "assign", to: { kind: "previous assignee" } },
    "gives it back to who had it before",
    toAssignee("jonah"),
  ],
  [
    { kind: "assign", to: { kind: "least loaded", teamId: "ticketing" } },
    "gives it to whoever of Ticketing has least in progress",
    toAssignee("ruth"),
  ],
  [
    { kind: "assign", to: { kind: "in turn", teamId: "ticketing" } },
    "gives it to the next in turn of Ticketing",
    toAssignee("lukas"),
  ],
  [
    { kind: "set outcome", outcome: "delivered" },
    "sets the outcome to delivered",
    [{ kind: "changed", field: "outcome", old: null, new: "delivered" }],
  ],
  [
    { kind: "comment", text: "Ready." },
    "comments “Ready.”",
    [{ kind: "commented", new: { commentId: "comment", body: "Ready." } }],
  ],
  [{ kind: "create sub-tasks", titles: ["Tell the crew"] }, "makes the child “Tell the crew”", []],
  [{ kind: "create sub-tasks", titles: ["a", "b"] }, "makes 2 children", []],
  [{ kind: "finish duplicates" }, "finishes its duplicates", []],
  [{ kind: "reopen duplicates" }, "reopens its duplicates", []],
  [
    {
      kind: "tell",
      whom: [
        { kind: "assignee" },
        { kind: "requester" },
        { kind: "team", teamId: "quayside" },
        { kind: "person", personId: "ivo" },
      ],
      text: "It is live.",
    },
    "tells the assignee, whoever asked for it, everybody of Quayside and Ivo Sandell: “It is live.”",
    [],
  ],
  [{ kind: "put on top" }, "puts it on top", []],
])("%j %s", (followUp, words, changes) => {
  expect(followUpWords(followUp, VOCABULARY)).toBe(words);
  expect(followUpChanges([followUp], building, around)).toEqual(changes);
  expect(followUpSchema.parse(followUp)).toEqual(followUp);
});

test("without anybody to give it to it stays with whoever has it", () => {
  const item = { ...building, createdBy: null, reviewerId: null };
  for (const kind of ["mover", "creator", "reviewer", "previous assignee"] as const)
    expect(followUpChanges([{ kind: "assign", to: { kind } }], item, nobody)).toEqual([]);
  for (const kind of ["least loaded", "in turn"] as const)
    for (const teamId of ["quayside", "unknown"])
      expect(followUpChanges([{ kind: "assign", to: { kind, teamId } }], item, nobody)).toEqual([]);
});

test("one follows from what the one before left", () => {
  const changes = followUpChanges(
    [
      { kind: "set field", change: { field: "reviewerId", value: null } },
      { kind: "assign", to: { kind: "reviewer" } },
      { kind: "set field", change: { field: "own", fieldId: "f-note", value: "sails" } },
      { kind: "set field", change: { field: "own", fieldId: "f-note", value: "sails" } },
      { kind: "set field", change: { field: "own", fieldId: "f-note", value: null } },
    ],
    building,
    around,
  );
  expect(changes).toEqual([
    { kind: "changed", field: "reviewerId", old: "hanna", new: null },
    { kind: "own changed", field: "f-note", old: "ropes", new: "sails" },
    { kind: "own changed", field: "f-note", old: "sails", new: null },
  ]);
});

test("where no comment is expected none is made", () =>
  expect(() =>
    followUpChanges([{ kind: "comment", text: "x" }], building, NO_FOLLOW_UP_CONTEXT),
  ).toThrow("no comment was expected"));

test.each(FOLLOW_UP_KINDS)("a new “%s” can be stored as it begins", (kind) => {
  const begun = newFollowUp(kind, VOCABULARY);
  expect(followUpSchema.parse(begun)).toEqual(begun);
  expect(begun.kind).toBe(kind);
  expect(followUpKindOf(kind).title).toMatch(/^[a-z].+[a-z]$/);
  expect(followUpWords(begun, VOCABULARY)).not.toMatch(/gone|undefined/);
});

test("one that gives it away begins with the team there is, or with whoever moves it", () => {
  expect(newFollowUp("assign", VOCABULARY)).toEqual({
    kind: "assign",
    to: { kind: "least loaded", teamId: "ticketing" },
  });
  expect(newFollowUp("assign", { ...VOCABULARY, teams: [] })).toEqual({
    kind: "assign",
    to: { kind: "mover" },
  });
});

test.each<unknown>([
  { kind: "comment", text: " " },
  { kind: "comment", text: "x".repeat(2_001) },
  { kind: "create sub-tasks", titles: [] },
  { kind: "create sub-tasks", titles: Array(21).fill("x") },
  { kind: "create sub-tasks", titles: ["x".repeat(301)] },
  { kind: "tell", whom: [], text: "x" },
  { kind: "tell", whom: [{ kind: "assignee" }], text: "x".repeat(501) },
  { kind: "tell", whom: [{ kind: "stranger" }], text: "x" },
  { kind: "assign", to: { kind: "person" } },
  { kind: "set outcome", outcome: "sunk" },
  { kind: "set field", change: { field: "reviewerId", value: 3 } },
  { kind: "set field", change: { field: "title", value: "x" } },
  { kind: "sink it" },
])("%j is no follow-up", (followUp) =>
  expect(followUpSchema.safeParse(followUp).success).toBe(false),
);

/** Each trigger with its sentence, what sets it off, and how the history tells of it. */
test.each<[Trigger, string, Occurrence, string]>([
  [
    { kind: "change opened" },
    "a change for it is opened",
    { kind: "change opened", change: "41" },
    "Change 41 was opened.",
  ],
  [
    { kind: "change merged" },
    "its changes are merged",
    { kind: "change merged", change: "41" },
    "Change 41 was merged.",
  ],
  [
    { kind: "checks passed" },
    "the checks of its changes pass",
    { kind: "checks passed", change: "41" },
    "The checks of change 41 passed.",
  ],
  [
    { kind: "checks failed" },
    "a check of its changes fails",
    { kind: "checks failed", change: "41" },
    "A check of change 41 failed.",
  ],
  [
    { kind: "review approved" },
    "its change is approved in review",
    { kind: "review approved", change: "41" },
    "Change 41 was approved in review.",
  ],
  [
    { kind: "review sent back" },
    "its change is sent back in review",
    { kind: "review sent back", change: "41" },
    "Change 41 was sent back in review.",
  ],
  [
    { kind: "test run passed" },
    "its test run passes",
    { kind: "test run passed", run: "7" },
    "Test run 7 passed.",
  ],
  [
    { kind: "test run failed" },
    "its test run fails",
    { kind: "test run failed", run: "7" },
    "Test run 7 failed.",
  ],
  [
    { kind: "deployed", environment: "harbour" },
    "it is deployed to harbour",
    { kind: "deployed", environment: "Harbour" },
    "It was deployed to Harbour.",
  ],
  [
    { kind: "sub-tasks finished" },
    "all its children are finished",
    { kind: "sub-tasks finished" },
    "All its children are finished.",
  ],
  [
    { kind: "parent finished" },
    "the item above it is finished",
    { kind: "parent finished", parentKey: "TIX-3" },
    "TIX-3 above it is finished.",
  ],
  [
    { kind: "linked ended", way: "waits for", how: "delivered" },
    "all that it waits for is delivered",
    { kind: "linked ended", way: "waits for", key: "TIX-9", delivered: true },
    "All that it waits for is delivered, TIX-9 last.",
  ],
  [
    { kind: "linked ended", way: "tests", how: "any end" },
    "all that it tests has ended",
    { kind: "linked ended", way: "tests", key: "TIX-9", delivered: false },
    "All that it tests has ended, TIX-9 last.",
  ],
  [
    { kind: "requester answered" },
    "its requester answers",
    { kind: "requester answered" },
    "Its requester answered.",
  ],
  [
    { kind: "first assigned" },
    "it is given to somebody for the first time",
    { kind: "first assigned" },
    "It was given to somebody for the first time.",
  ],
  [
    { kind: "days in state", days: 1 },
    "it has been there for 1 day",
    { kind: "days in state", days: 3 },
    "It had been here for 3 days.",
  ],
  [
    { kind: "date reached", field: "dueOn" },
    "its due date is reached",
    { kind: "date reached", field: "dueOn" },
    "Its due date was reached.",
  ],
])("%j: when %s", (trigger, words, occurrence, history) => {
  expect(triggerWords(trigger)).toBe(words);
  expect(occurrenceWords(occurrence)).toBe(history);
  expect(triggerSchema.parse(trigger)).toEqual(trigger);
  const waiting = {
    ...workflow,
    transitions: workflow.transitions.map((t) =>
      t.to === "Waiting for review" ? { ...t, triggers: [trigger] } : t,
    ),
  };
  expect(triggeredTransition(waiting, building, occurrence)?.to).toBe("Waiting for review");
  expect(triggeredTransition(workflow, building, occurrence)).toBeUndefined();
  expect(triggeredTransition(waiting, { stateId: "Ready" }, occurrence)).toBeUndefined();
});

test.each(TRIGGER_KINDS)("a new “%s” can be stored as it begins", (kind) => {
  expect(triggerSchema.parse(newTrigger(kind))).toEqual(newTrigger(kind));
  expect(triggerKindOf(kind).title).not.toBe("");
});

test.each<unknown>([
  { kind: "deployed", environment: " " },
  { kind: "deployed" },
  { kind: "days in state", days: 0 },
  { kind: "days in state", days: 3_651 },
  { kind: "date reached", field: "createdAt" },
  { kind: "change abandoned" },
])("%j is no trigger", (trigger) => expect(triggerSchema.safeParse(trigger).success).toBe(false));

describe("what the events of a command mean for triggers", () => {
  const event = (change: ItemChange, cause: ItemEvent["cause"] = "person"): ItemEvent => ({
    ...change,
    itemId: "i",
    seq: 1,
    at: 1,
    actorId: "noor",
    cause,
    commandId: "c",
  });
  const change = (of: Partial<LinkedChange>): LinkedChange => ({
    id: "41",
    status: "merged",
    checks: "passed",
    review: null,
    ...of,
  });
  const meant = (changed: ItemChange, changes: LinkedChange[] = [], assignedBefore = false) =>
    occurrencesOf(
      [event(changed)],
      { ...building, outside: { changes, deployedTo: [], testResult: null } },
      assignedBefore,
    );
  const told = (fact: OutsideFact): ItemChange => ({ kind: "reported", new: fact, note: "Host" });

  test("given to somebody counts the first time only", () => {
    const given: ItemChange = { kind: "changed", field: "assigneeId", old: null, new: "ivo" };
    expect(meant(given)).toEqual([{ kind: "first assigned" }]);
    expect(meant(given, [], true)).toEqual([]);
    expect(meant({ ...given, new: null } as ItemChange)).toEqual([]);
    expect(meant({ ...given, field: "reviewerId" } as ItemChange)).toEqual([]);
  });

  test("a comment counts where it is the requester's", () => {
    const said: ItemChange = { kind: "commented", new: { commentId: "c", body: "x" } };
    expect(meant(said)).toEqual([]);
    expect(occurrencesOf([event(said, "requester")], building, true)).toEqual([
      { kind: "requester answered" },
    ]);
    expect(
      occurrencesOf([event({ kind: "ranked", old: "a", new: "b" }, "requester")], building, true),
    ).toEqual([]);
  });

  test("of several changes the last one that is merged counts, and checks that all passed", () => {
    const merged: OutsideFact = { kind: "change merged", change: "41" };
    expect(meant(told(merged), [change({}), change({ id: "42", status: "open" })])).toEqual([]);
    expect(meant(told(merged), [change({}), change({ id: "42" })])).toEqual([merged]);
    const passed: OutsideFact = { kind: "checks passed", change: "41" };
    expect(meant(told(passed), [change({}), change({ id: "42", checks: "running" })])).toEqual([]);
    expect(meant(told(passed), [change({})])).toEqual([passed]);
  });

  test("what is given up and checks that begin are nothing to wait for; the rest is told on", () => {
    expect(meant(told({ kind: "change abandoned", change: "41" }))).toEqual([]);
    expect(meant(told({ kind: "checks started", change: "41" }))).toEqual([]);
    const failed: OutsideFact = { kind: "test run failed", run: "7" };
    expect(meant(told(failed))).toEqual([failed]);
    expect(meant({ kind: "ranked", old: "a", new: "b" })).toEqual([]);
  });
});
