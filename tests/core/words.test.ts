import { OWN_FIELDS } from "./setup/conditions";
import { eventWords } from "@/core/item/words";
import type { ItemEvent } from "@/core/item/event";
import type { FollowUp } from "@/core/workflow/follow-ups/table";
import type { Mover } from "@/core/workflow/requirement";
import { followUpWords } from "@/core/workflow/follow-ups/table";
import { moversWords } from "@/core/workflow/words";
import { parseCel } from "@/core/condition/cel-parse";
import { VOCABULARY } from "./setup/conditions";
import { type Requirement, requirementWords } from "@/core/workflow/requirements/table";

/**
 * Every sentence that a lead or a maker reads about the rules; a new kind without words fails to
 * compile.
 */

test.each<[Requirement, string]>([
  [{ kind: "filled", field: "estimate" }, "needs an estimate"],
  [{ kind: "filled", field: "howToTest" }, "needs a note on how to test"],
  [{ kind: "filled", field: "dueOn" }, "needs a due date"],
  [
    { kind: "different people", first: "reviewerId", second: "assigneeId" },
    "the reviewer is not the assignee",
  ],
  [
    { kind: "condition", condition: parseCel('item.type == "Bug"', VOCABULARY).condition! },
    "only when the type is Bug",
  ],
  [
    {
      kind: "condition",
      condition: parseCel('item.type != "Bug" || item.severity != null', VOCABULARY).condition!,
    },
    "if the type is Bug, only when the severity is set",
  ],
  [
    {
      kind: "condition",
      condition: parseCel(
        'item.estimate == null || item.type != "Bug" || item.estimate < 5',
        VOCABULARY,
      ).condition!,
    },
    "if the estimate is set and the type is Bug, only when the estimate is less than 5",
  ],
  [
    {
      kind: "condition",
      condition: parseCel('item.type == "Bug" || item.type == "Story"', VOCABULARY).condition!,
    },
    "only when the type is Bug or the type is Story",
  ],
  [{ kind: "checklist" }, "every point of the agreement is ticked"],
  [{ kind: "approvals", count: 1, role: null, teamId: null }, "approved by a person"],
  [
    { kind: "approvals", count: 2, role: "lead", teamId: "quayside" },
    "approved by 2 leads of Quayside",
  ],
  [{ kind: "approvals", count: 1, role: "member", teamId: null }, "approved by a member"],
  [{ kind: "approvals", count: 2, role: "member", teamId: null }, "approved by 2 members"],
  [{ kind: "approvals", count: 3, role: null, teamId: null }, "approved by 3 people"],
  [
    { kind: "approvals", count: 1, role: null, teamId: null, host: "counts until new commits" },
    "approved by a person, here or at the code host since the last commit",
  ],
  [{ kind: "sub-tasks finished" }, "all children are finished"],
  [{ kind: "no blocker" }, "nothing blocks it"],
  [{ kind: "comment" }, "leaves a comment"],
  [{ kind: "reason" }, "says why"],
  [
    { kind: "outcome", allowed: ["delivered", "obsolete"] },
    "names an outcome (delivered, obsolete)",
  ],
  [{ kind: "limit ahead", mode: "ask" }, "asks why when a limit ahead is full"],
])("$0.kind: %j reads “%s”", (requirement, words) =>
  expect(requirementWords(requirement, VOCABULARY)).toBe(words),
);

test.each<[FollowUp, string]>([
  [
    { kind: "set field", change: { field: "priority", value: "high" } },
    "sets the priority to high",
  ],
  [
    { kind: "set field", change: { field: "teamId", value: "quayside" } },
    "sets the team to Quayside",
  ],
  [{ kind: "set field", change: { field: "dueOn", value: null } }, "clears the due date"],
  [{ kind: "assign", to: { kind: "person", personId: "noor" } }, "gives it to Noor Bakri"],
  [{ kind: "assign", to: { kind: "nobody" } }, "takes the assignee off"],
  [
    { kind: "assign", to: { kind: "least loaded", teamId: "ticketing" } },
    "gives it to whoever of Ticketing has least in progress",
  ],
  [
    { kind: "assign", to: { kind: "in turn", teamId: "gone" } },
    "gives it to the next in turn of somebody gone",
  ],
  [{ kind: "assign", to: { kind: "previous assignee" } }, "gives it back to who had it before"],
  [{ kind: "set outcome", outcome: "delivered" }, "sets the outcome to delivered"],
  [{ kind: "comment", text: "Handed over." }, "comments “Handed over.”"],
  [{ kind: "create sub-tasks", titles: ["Tell the quays"] }, "makes the child “Tell the quays”"],
  [{ kind: "create sub-tasks", titles: ["a", "b"] }, "makes 2 children"],
  [{ kind: "finish duplicates" }, "finishes its duplicates"],
  [{ kind: "reopen duplicates" }, "reopens its duplicates"],
  [{ kind: "put on top" }, "puts it on top"],
])("%j reads “%s”", (followUp, words) => expect(followUpWords(followUp, VOCABULARY)).toBe(words));

test.each<[Mover[], string | null]>([
  [[], null],
  [[{ kind: "role", role: "lead" }], "a lead"],
  [
    [{ kind: "assignee" }, { kind: "team", teamId: "quayside" }],
    "the assignee or somebody of Quayside",
  ],
  [[{ kind: "not the assignee" }], "anyone but the assignee"],
  [
    [{ kind: "reviewer" }, { kind: "role", role: "member" }, { kind: "assignee" }],
    "the reviewer, a member or the assignee",
  ],
])("%j may make it: %s", (who, words) => expect(moversWords(who, VOCABULARY)).toBe(words));

const names = {
  state: (id: string) => `State ${id}`,
  person: (id: string) => `Person ${id}`,
  team: (id: string) => `Team ${id}`,
  type: (id: string) => `Type ${id}`,
  sprint: (id: string) => `Sprint ${id}`,
  release: (id: string) => `Release ${id}`,
  own: (id: string) => OWN_FIELDS.find((f) => f.id === id),
};
const event = (change: object) =>
  ({
    itemId: "i",
    seq: 2,
    at: 0,
    actorId: "noor",
    cause: "person",
    commandId: "c",
    ...change,
  }) as ItemEvent;

test.each<[object, string]>([
  [
    {
      kind: "moved",
      old: { stateId: "a", kind: "waiting" },
      new: { stateId: "b", kind: "working", isReturn: false, rank: null },
      note: null,
    },
    "moved it from State a to State b",
  ],
  [
    {
      kind: "moved",
      old: { stateId: "a", kind: "working" },
      new: { stateId: "b", kind: "working", isReturn: true, rank: null },
      note: "Too slow.",
    },
    "sent it back from State a to State b",
  ],
  [
    { kind: "changed", field: "assigneeId", old: null, new: "noor" },
    "set the assignee to Person noor",
  ],
  [
    { kind: "changed", field: "teamId", old: "a", new: "b" },
    "changed the team from Team a to Team b",
  ],
  [
    { kind: "changed", field: "typeId", old: "a", new: "b" },
    "changed the type from Type a to Type b",
  ],
  [{ kind: "changed", field: "estimate", old: 3, new: null }, "cleared the estimate (was 3)"],
  [{ kind: "changed", field: "description", old: "a", new: "b" }, "rewrote the description"],
  [{ kind: "changed", field: "howToTest", old: "a", new: null }, "cleared the how to test"],
  [{ kind: "ticked", new: { policyId: "p", text: "It ran" } }, "ticked “It ran”"],
  [{ kind: "unticked", old: { policyId: "p", text: "It ran" } }, "took the tick from “It ran”"],
  [{ kind: "approved", new: { role: "lead" } }, "approved it as lead"],
  [{ kind: "approval withdrawn" }, "took the approval back"],
  [
    { kind: "blocked", new: { blockId: "b", cause: "storm", waitingFor: "the harbour" } },
    "marked it blocked: storm, waiting for the harbour",
  ],
  [{ kind: "lifted", old: { blockId: "b", cause: "storm" } }, "lifted the blocker: storm"],
  [
    {
      kind: "overrode",
      new: { columnId: "c", columnName: "Review", side: "maximum", limit: 3, wouldHold: 4 },
      note: "storm",
    },
    "went beyond the limit of Review (maximum 3, now 4)",
  ],
  [
    {
      kind: "linked",
      new: { linkId: "l", kind: "duplicates", otherId: "o", otherKey: "TIX-9", outward: false },
    },
    "linked it: is duplicated by TIX-9",
  ],
  [{ kind: "changed", field: "sprintId", old: null, new: "9" }, "set the sprint to Sprint 9"],
  [
    { kind: "changed", field: "labels", old: ["deck"], new: ["deck", "storm"] },
    "changed the labels from deck to deck, storm",
  ],
  [
    { kind: "own changed", field: "f-value", old: null, new: 5000 },
    "set Value lost per week to 5,000 pounds",
  ],
  [
    { kind: "own changed", field: "f-quays", old: ["q1"], new: ["q1", "q2"] },
    "changed Quays from Quay 1 to Quay 1, Quay 2",
  ],
  [
    { kind: "own changed", field: "f-skipper", old: "ivo", new: null },
    "cleared Skipper (was Person ivo)",
  ],
  [
    { kind: "reported", new: { kind: "checks failed", change: "41" }, note: "Pipeline" },
    "heard: checks of change 41 failed",
  ],
  [
    { kind: "held", new: { transitionId: "t", to: "5" }, note: "It needs an estimate." },
    "left it where it is instead of moving it to State 5",
  ],
  [{ kind: "withdrawn", note: "x" }, "withdrew it"],
  [{ kind: "brought back" }, "brought it back"],
])("history: %j reads “%s”", (change, words) =>
  expect(eventWords(event(change), names)).toBe(words),
);
