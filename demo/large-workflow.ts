import type { WorkflowTemplate } from "@/core/workflow/template";

/** The few steps of what holds many pieces of work. */
export const LARGE_WORKFLOW: WorkflowTemplate = {
  name: "Large pieces",
  suits: "Voyages and charters: what holds many pieces of work.",
  states: [
    { name: "Imagined", kind: "unstarted", stage: null },
    { name: "Agreed", kind: "waiting", stage: "Agree" },
    { name: "Under way", kind: "working", stage: "Sail" },
    { name: "Arrived", kind: "finished", stage: "Arrive" },
  ],
  transitions: [
    { from: "Imagined", to: "Agreed", verb: "Agree on it" },
    { from: "Agreed", to: "Under way", verb: "Set out" },
    { from: "Under way", to: "Arrived", verb: "Arrive" },
    { from: "Under way", to: "Agreed", verb: "Lie at anchor" },
    { from: "Agreed", to: "Imagined", verb: "Put aside" },
    { from: "Arrived", to: "Under way", verb: "Set out again" },
  ],
};

export const LARGE_TYPES = {
  voyage: { id: "voyage", name: "Voyage", level: 2, glyph: "wave", template: "", position: 4 },
  charter: { id: "charter", name: "Charter", level: 3, glyph: "anchor", template: "", position: 5 },
} as const;

export const LEVEL_NAMES = ["task", "story", "voyage", "charter"];
