import type { WorkflowTemplate } from "../template";
import { FINISHED_UNDELIVERED } from "./undelivered";

/**
 * A bug from its report to the proof that it is gone, or to the word that nobody could make it
 * happen.
 */
export const REPORT_TO_FIX: WorkflowTemplate = {
  name: "Report to fix",
  suits: "Bugs: made to happen again, fixed, and seen to be gone by somebody else.",
  states: [
    { name: "Reported", kind: "unstarted", stage: null },
    { name: "Waiting to be reproduced", kind: "waiting", stage: "Reproduce" },
    { name: "Reproducing", kind: "working", stage: "Reproduce" },
    { name: "Confirmed", kind: "waiting", stage: "Fix" },
    { name: "Fixing", kind: "working", stage: "Fix" },
    { name: "Waiting for a check", kind: "waiting", stage: "Check" },
    { name: "Checking", kind: "working", stage: "Check" },
    { name: "Fixed", kind: "finished", stage: "Done", outcomes: ["delivered"] },
    { name: "Ended without a fix", kind: "finished", stage: null, outcomes: FINISHED_UNDELIVERED },
  ],
  transitions: [
    {
      from: "Reported",
      to: "Waiting to be reproduced",
      verb: "Take in",
      requirements: [{ kind: "filled", field: "severity" }],
    },
    {
      from: "Waiting to be reproduced",
      to: "Reproducing",
      verb: "Try it",
      requirements: [{ kind: "filled", field: "assigneeId" }],
    },
    {
      from: "Reproducing",
      to: "Confirmed",
      verb: "It happens",
      requirements: [{ kind: "filled", field: "howToTest" }],
    },
    { from: "Reproducing", to: "Waiting to be reproduced", verb: "Put down" },
    { from: "Confirmed", to: "Fixing", verb: "Start fixing" },
    { from: "Fixing", to: "Waiting for a check", verb: "Hand to check" },
    { from: "Fixing", to: "Confirmed", verb: "Put down" },
    {
      from: "Fixing",
      to: "Reproducing",
      verb: "It is something else",
      requirements: [{ kind: "reason" }],
    },
    {
      from: "Waiting for a check",
      to: "Checking",
      verb: "Start checking",
      who: [{ kind: "not the assignee" }],
    },
    {
      from: "Checking",
      to: "Fixed",
      verb: "It is gone",
      followUps: [{ kind: "set outcome", outcome: "delivered" }, { kind: "finish duplicates" }],
    },
    {
      from: "Checking",
      to: "Fixing",
      verb: "It still happens",
      requirements: [{ kind: "reason" }],
      followUps: [{ kind: "put on top" }],
    },
    {
      from: null,
      to: "Ended without a fix",
      verb: "End it",
      requirements: [{ kind: "outcome", allowed: FINISHED_UNDELIVERED }],
    },
    {
      from: ["Fixed", "Ended without a fix"],
      to: "Reported",
      verb: "Reopen",
      requirements: [{ kind: "reason" }],
      followUps: [{ kind: "reopen duplicates" }],
    },
  ],
};
