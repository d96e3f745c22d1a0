import type { WorkflowTemplate } from "../template";

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
