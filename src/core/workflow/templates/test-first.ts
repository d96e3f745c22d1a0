import type { WorkflowTemplate } from "../template";
import { FINISHED_UNDELIVERED } from "./undelivered";

/** The test is written first: nothing is built before somebody has said how it is seen to work. */
export const TEST_FIRST: WorkflowTemplate = {
  name: "Test first",
  suits: "A crew that writes down how to see that it works before anybody builds it.",
  states: [
    { name: "Backlog", kind: "unstarted", stage: null },
    { name: "Waiting for its test", kind: "waiting", stage: "Test design" },
    {
      name: "Writing the test",
      kind: "working",
      stage: "Test design",
      exit: ["The test fails for the right reason"],
    },
    { name: "Ready to build", kind: "waiting", stage: "Build" },
    { name: "Building", kind: "working", stage: "Build", exit: ["The test passes"] },
    { name: "Waiting to ship", kind: "waiting", stage: "Ship" },
    { name: "Live", kind: "finished", stage: "Live" },
    { name: "Closed", kind: "finished", stage: null },
  ],
  transitions: [
    { from: "Backlog", to: "Waiting for its test", verb: "Pull" },
    {
      from: "Waiting for its test",
      to: "Writing the test",
      verb: "Start the test",
      requirements: [{ kind: "filled", field: "assigneeId" }],
    },
    { from: "Waiting for its test", to: "Backlog", verb: "Put back" },
    {
      from: "Writing the test",
      to: "Ready to build",
      verb: "Test is written",
      requirements: [{ kind: "filled", field: "howToTest" }, { kind: "checklist" }],
    },
    { from: "Writing the test", to: "Waiting for its test", verb: "Put down" },
    { from: "Ready to build", to: "Building", verb: "Start building" },
    {
      from: "Building",
      to: "Waiting to ship",
      verb: "Test passes",
      requirements: [{ kind: "checklist" }],
    },
    {
      from: "Building",
      to: "Writing the test",
      verb: "The test is wrong",
      requirements: [{ kind: "reason" }],
    },
    {
      from: "Waiting to ship",
      to: "Live",
      verb: "Ship",
      followUps: [{ kind: "set outcome", outcome: "delivered" }],
    },
    {
      from: "Waiting to ship",
      to: "Building",
      verb: "Pull out",
      requirements: [{ kind: "reason" }],
    },
    {
      from: null,
      to: "Closed",
      verb: "Close",
      requirements: [{ kind: "outcome", allowed: FINISHED_UNDELIVERED }],
    },
    { from: ["Live", "Closed"], to: "Backlog", verb: "Reopen", requirements: [{ kind: "reason" }] },
  ],
};
