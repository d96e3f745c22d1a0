import type { WorkflowTemplate } from "../template";
import { FINISHED_UNDELIVERED } from "./undelivered";

/** Build, review by a second person, test, deploy: waiting and working apart in every stage. */
export const BUILD_REVIEW_TEST_DEPLOY: WorkflowTemplate = {
  name: "Build, review, test, deploy",
  suits: "Software that a second person reads and a third one tests before it goes live.",
  states: [
    { name: "Backlog", kind: "unstarted", stage: null },
    { name: "Ready", kind: "waiting", stage: "Ready" },
    { name: "Building", kind: "working", stage: "Build" },
    { name: "Waiting for review", kind: "waiting", stage: "Review", byReviewer: true },
    { name: "In review", kind: "working", stage: "Review", byReviewer: true },
    { name: "Waiting for test", kind: "waiting", stage: "Test" },
    { name: "In test", kind: "working", stage: "Test" },
    { name: "Ready to deploy", kind: "waiting", stage: "Deploy" },
    { name: "Live", kind: "finished", stage: "Live" },
    { name: "Closed", kind: "finished", stage: null },
  ],
  transitions: [
    { from: "Backlog", to: "Ready", verb: "Pull" },
    {
      from: "Ready",
      to: "Building",
      verb: "Start building",
      requirements: [{ kind: "filled", field: "assigneeId" }],
    },
    { from: "Ready", to: "Backlog", verb: "Put back" },
    { from: "Building", to: "Waiting for review", verb: "Hand to review" },
    { from: "Building", to: "Ready", verb: "Put down" },
    {
      from: "Waiting for review",
      to: "In review",
      verb: "Start review",
      requirements: [
        { kind: "filled", field: "reviewerId" },
        { kind: "different people", first: "reviewerId", second: "assigneeId" },
      ],
    },
    { from: "Waiting for review", to: "Building", verb: "Take back" },
    {
      from: "In review",
      to: "Waiting for test",
      verb: "Pass review",
      requirements: [{ kind: "filled", field: "howToTest" }],
    },
    { from: "In review", to: "Building", verb: "Send back", requirements: [{ kind: "reason" }] },
    { from: "Waiting for test", to: "In test", verb: "Start test" },
    { from: "In test", to: "Ready to deploy", verb: "Pass test" },
    {
      from: "In test",
      to: "Building",
      verb: "Fail and send back",
      requirements: [{ kind: "reason" }],
    },
    {
      from: "Ready to deploy",
      to: "Live",
      verb: "Deploy",
      requirements: [{ kind: "outcome", allowed: ["delivered", "obsolete"] }],
    },
    {
      from: "Ready to deploy",
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
    { from: "Live", to: "Backlog", verb: "Reopen", requirements: [{ kind: "reason" }] },
    { from: "Closed", to: "Backlog", verb: "Reopen", requirements: [{ kind: "reason" }] },
  ],
};
