import type { WorkflowTemplate } from "../template";

/** Drafts that go round between whoever makes them and whoever has to say yes. */
export const APPROVAL_ROUNDS: WorkflowTemplate = {
  name: "Requests with approval rounds",
  suits: "Designs and requests that go round until enough people have said yes.",
  states: [
    { name: "Wish", kind: "unstarted", stage: null },
    { name: "Waiting for a draft", kind: "waiting", stage: "Draft" },
    { name: "Drafting", kind: "working", stage: "Draft" },
    { name: "Waiting for a yes", kind: "waiting", stage: "Approve", tooOldDays: 5 },
    { name: "Agreed", kind: "waiting", stage: "Make" },
    { name: "Making", kind: "working", stage: "Make" },
    { name: "Handed over", kind: "finished", stage: "Done", outcomes: ["delivered"] },
    {
      name: "Turned down",
      kind: "finished",
      stage: null,
      outcomes: ["declined", "duplicate", "obsolete"],
    },
  ],
  transitions: [
    { from: "Wish", to: "Waiting for a draft", verb: "Take on" },
    {
      from: "Waiting for a draft",
      to: "Drafting",
      verb: "Start a draft",
      requirements: [{ kind: "filled", field: "assigneeId" }],
    },
    {
      from: "Drafting",
      to: "Waiting for a yes",
      verb: "Ask for a yes",
      requirements: [{ kind: "comment" }],
    },
    { from: "Drafting", to: "Waiting for a draft", verb: "Put down" },
    {
      from: "Waiting for a yes",
      to: "Agreed",
      verb: "It is agreed",
      requirements: [{ kind: "approvals", count: 2, role: null, teamId: null }],
    },
    {
      from: "Waiting for a yes",
      to: "Drafting",
      verb: "Another round",
      requirements: [{ kind: "reason" }],
    },
    { from: "Agreed", to: "Making", verb: "Start making" },
    {
      from: "Making",
      to: "Handed over",
      verb: "Hand over",
      followUps: [{ kind: "set outcome", outcome: "delivered" }],
    },
    {
      from: "Making",
      to: "Drafting",
      verb: "The draft does not hold",
      requirements: [{ kind: "reason" }],
    },
    {
      from: null,
      to: "Turned down",
      verb: "Turn down",
      who: [{ kind: "role", role: "lead" }],
      requirements: [
        { kind: "outcome", allowed: ["declined", "duplicate", "obsolete"] },
        { kind: "reason" },
      ],
    },
    {
      from: ["Handed over", "Turned down"],
      to: "Wish",
      verb: "Reopen",
      requirements: [{ kind: "reason" }],
    },
  ],
};
