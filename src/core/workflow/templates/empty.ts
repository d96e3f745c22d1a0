import type { WorkflowTemplate } from "../template";

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
