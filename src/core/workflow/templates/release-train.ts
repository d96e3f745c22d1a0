import type { WorkflowTemplate } from "../template";
import { FINISHED_UNDELIVERED } from "./undelivered";

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
