import type { WorkflowTemplate } from "../template";

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
