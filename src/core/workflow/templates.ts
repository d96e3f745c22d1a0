import type { WorkflowTemplate } from "./template";
import type { Outcome } from "./state";

const FINISHED_UNDELIVERED: Outcome[] = ["duplicate", "cannot reproduce", "declined", "obsolete"];

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

/** For the small tasks under an item. */
export const SUB_TASKS: WorkflowTemplate = {
  name: "Sub-tasks",
  suits: "The small tasks under an item.",
  states: [
    { name: "Open", kind: "unstarted", stage: null },
    { name: "Doing", kind: "working", stage: "Doing" },
    { name: "Done", kind: "finished", stage: null },
  ],
  transitions: [
    { from: "Open", to: "Doing", verb: "Start" },
    {
      from: "Open",
      to: "Done",
      verb: "Finish",
      requirements: [{ kind: "outcome", allowed: ["delivered", "obsolete"] }],
    },
    {
      from: "Doing",
      to: "Done",
      verb: "Finish",
      requirements: [{ kind: "outcome", allowed: ["delivered", "obsolete"] }],
    },
    { from: "Doing", to: "Open", verb: "Put down" },
    { from: "Done", to: "Open", verb: "Reopen" },
  ],
};

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

/** Things that break and wait for a part or for somebody from outside. */
export const REPAIR: WorkflowTemplate = {
  name: "Repair with a wait for the vendor",
  suits: "Machines and devices: looked at, waiting for a part or a vendor, mended and tried.",
  states: [
    { name: "Broken", kind: "unstarted", stage: null },
    { name: "Waiting for a look", kind: "waiting", stage: "Look", tooOldDays: 2 },
    { name: "Looking at it", kind: "working", stage: "Look" },
    {
      name: "Waiting for the vendor",
      kind: "waiting",
      stage: "Vendor",
      expectedDays: 5,
      tooOldDays: 10,
    },
    { name: "Parts are here", kind: "waiting", stage: "Mend" },
    {
      name: "Mending",
      kind: "working",
      stage: "Mend",
      exit: ["It ran for ten minutes", "The old part is labelled"],
    },
    { name: "Back in service", kind: "finished", stage: "Done", outcomes: ["delivered"] },
    {
      name: "Written off",
      kind: "finished",
      stage: null,
      outcomes: ["obsolete", "cannot reproduce", "duplicate"],
    },
  ],
  transitions: [
    {
      from: "Broken",
      to: "Waiting for a look",
      verb: "Bring in",
      requirements: [{ kind: "filled", field: "place" }],
    },
    {
      from: "Waiting for a look",
      to: "Looking at it",
      verb: "Look at it",
      requirements: [{ kind: "filled", field: "assigneeId" }],
    },
    {
      from: "Looking at it",
      to: "Waiting for the vendor",
      verb: "Order a part",
      requirements: [{ kind: "comment" }, { kind: "filled", field: "dueOn" }],
    },
    { from: "Looking at it", to: "Parts are here", verb: "We have what it needs" },
    { from: "Looking at it", to: "Waiting for a look", verb: "Put down" },
    {
      from: "Waiting for the vendor",
      to: "Parts are here",
      verb: "The part came",
      followUps: [
        { kind: "set field", change: { field: "dueOn", value: null } },
        { kind: "put on top" },
      ],
    },
    { from: "Parts are here", to: "Mending", verb: "Start mending" },
    {
      from: "Mending",
      to: "Back in service",
      verb: "It runs",
      requirements: [{ kind: "checklist" }],
      followUps: [{ kind: "set outcome", outcome: "delivered" }],
    },
    {
      from: "Mending",
      to: "Looking at it",
      verb: "It is something else",
      requirements: [{ kind: "reason" }],
    },
    {
      from: "Parts are here",
      to: "Waiting for the vendor",
      verb: "It was the wrong part",
      requirements: [{ kind: "reason" }],
    },
    {
      from: null,
      to: "Written off",
      verb: "Write off",
      requirements: [{ kind: "outcome", allowed: ["obsolete", "cannot reproduce", "duplicate"] }],
    },
    {
      from: ["Back in service", "Written off"],
      to: "Broken",
      verb: "It broke again",
      requirements: [{ kind: "reason" }],
    },
  ],
};

/** Finished work waits for the next departure and goes out together. */
export const RELEASE_TRAIN: WorkflowTemplate = {
  name: "Release train",
  suits: "Work that is finished one by one and goes out together on fixed days.",
  states: [
    { name: "Backlog", kind: "unstarted", stage: null },
    { name: "Next", kind: "waiting", stage: "Build" },
    { name: "Building", kind: "working", stage: "Build" },
    { name: "Waiting for test", kind: "waiting", stage: "Test" },
    { name: "In test", kind: "working", stage: "Test" },
    { name: "On the platform", kind: "waiting", stage: "Train", expectedDays: 7, tooOldDays: 14 },
    {
      name: "Boarding",
      kind: "working",
      stage: "Train",
      entry: ["It is in the notes"],
      exit: ["It was tried where customers use it"],
    },
    { name: "Departed", kind: "finished", stage: "Live", outcomes: ["delivered"] },
    { name: "Left behind", kind: "finished", stage: null, outcomes: FINISHED_UNDELIVERED },
  ],
  transitions: [
    { from: "Backlog", to: "Next", verb: "Pull" },
    {
      from: "Next",
      to: "Building",
      verb: "Start building",
      requirements: [
        { kind: "filled", field: "assigneeId" },
        { kind: "filled", field: "estimate" },
      ],
    },
    { from: "Next", to: "Backlog", verb: "Put back" },
    {
      from: "Building",
      to: "Waiting for test",
      verb: "Hand to test",
      requirements: [{ kind: "filled", field: "howToTest" }, { kind: "sub-tasks finished" }],
    },
    { from: "Building", to: "Next", verb: "Put down" },
    {
      from: "Waiting for test",
      to: "In test",
      verb: "Start test",
      who: [{ kind: "not the assignee" }],
    },
    { from: "In test", to: "On the platform", verb: "Pass test" },
    {
      from: "In test",
      to: "Building",
      verb: "Fail",
      requirements: [{ kind: "reason" }],
      followUps: [{ kind: "put on top" }],
    },
    {
      from: "On the platform",
      to: "Boarding",
      verb: "Board",
      requirements: [{ kind: "no blocker" }, { kind: "checklist" }],
    },
    {
      from: "Boarding",
      to: "Departed",
      verb: "Depart",
      who: [{ kind: "role", role: "lead" }],
      requirements: [{ kind: "checklist" }],
      followUps: [{ kind: "set outcome", outcome: "delivered" }],
    },
    {
      from: "Boarding",
      to: "On the platform",
      verb: "Wait for the next train",
      requirements: [{ kind: "reason" }],
    },
    {
      from: "Boarding",
      to: "Building",
      verb: "Take off the train",
      requirements: [{ kind: "reason" }],
    },
    {
      from: "On the platform",
      to: "Building",
      verb: "Pull out",
      requirements: [{ kind: "reason" }],
    },
    {
      from: null,
      to: "Left behind",
      verb: "Leave behind",
      requirements: [{ kind: "outcome", allowed: FINISHED_UNDELIVERED }],
    },
    {
      from: ["Departed", "Left behind"],
      to: "Backlog",
      verb: "Reopen",
      requirements: [{ kind: "reason" }],
    },
  ],
};

/** The least that a process can be, to build on. */
export const EMPTY: WorkflowTemplate = {
  name: "Nearly nothing",
  suits: "To begin from nothing: something to do, doing it, done.",
  states: [
    { name: "To do", kind: "unstarted", stage: null },
    { name: "Doing", kind: "working", stage: "Doing" },
    { name: "Done", kind: "finished", stage: "Done" },
  ],
  transitions: [
    { from: "To do", to: "Doing", verb: "Start" },
    { from: "Doing", to: "To do", verb: "Put back" },
    {
      from: "Doing",
      to: "Done",
      verb: "Finish",
      followUps: [{ kind: "set outcome", outcome: "delivered" }],
    },
    { from: "Done", to: "To do", verb: "Reopen", requirements: [{ kind: "reason" }] },
  ],
};

/** What a project can be started from. */
export const PROJECT_TEMPLATES: readonly WorkflowTemplate[] = [
  BUILD_REVIEW_TEST_DEPLOY,
  TEST_FIRST,
  REPORT_TO_FIX,
  APPROVAL_ROUNDS,
  REPAIR,
  RELEASE_TRAIN,
  EMPTY,
];
