import type { Outcome, Requirement, StateKind, Workflow } from "./workflow";

/** A workflow before it has ids. Names stand for themselves. */
export interface WorkflowTemplate {
  name: string;
  /** For whom it is, in a sentence. */
  suits: string;
  states: { name: string; kind: StateKind; stage: string | null }[];
  transitions: { from: string | null; to: string; verb: string; requirements: Requirement[] }[];
}

const FINISHED_UNDELIVERED: Outcome[] = ["duplicate", "cannot reproduce", "declined", "obsolete"];

/** Build, review by a second person, test, deploy: waiting and working apart in every stage. */
export const BUILD_REVIEW_TEST_DEPLOY: WorkflowTemplate = {
  name: "Build, review, test, deploy",
  suits: "Software that a second person reads and a third one tests before it goes live.",
  states: [
    { name: "Backlog", kind: "unstarted", stage: null },
    { name: "Ready", kind: "waiting", stage: "Ready" },
    { name: "Building", kind: "working", stage: "Build" },
    { name: "Waiting for review", kind: "waiting", stage: "Review" },
    { name: "In review", kind: "working", stage: "Review" },
    { name: "Waiting for test", kind: "waiting", stage: "Test" },
    { name: "In test", kind: "working", stage: "Test" },
    { name: "Ready to deploy", kind: "waiting", stage: "Deploy" },
    { name: "Live", kind: "finished", stage: "Live" },
    { name: "Closed", kind: "finished", stage: null },
  ],
  transitions: [
    { from: "Backlog", to: "Ready", verb: "Pull", requirements: [] },
    { from: "Ready", to: "Building", verb: "Start building", requirements: [{ kind: "filled", field: "assigneeId" }] },
    { from: "Ready", to: "Backlog", verb: "Put back", requirements: [] },
    { from: "Building", to: "Waiting for review", verb: "Hand to review", requirements: [] },
    { from: "Building", to: "Ready", verb: "Put down", requirements: [] },
    {
      from: "Waiting for review",
      to: "In review",
      verb: "Start review",
      requirements: [
        { kind: "filled", field: "reviewerId" },
        { kind: "different people", first: "reviewerId", second: "assigneeId" },
      ],
    },
    { from: "Waiting for review", to: "Building", verb: "Take back", requirements: [] },
    { from: "In review", to: "Waiting for test", verb: "Pass review", requirements: [{ kind: "filled", field: "howToTest" }] },
    { from: "In review", to: "Building", verb: "Send back", requirements: [{ kind: "reason" }] },
    { from: "Waiting for test", to: "In test", verb: "Start test", requirements: [] },
    { from: "In test", to: "Ready to deploy", verb: "Pass test", requirements: [] },
    { from: "In test", to: "Building", verb: "Fail and send back", requirements: [{ kind: "reason" }] },
    { from: "Ready to deploy", to: "Live", verb: "Deploy", requirements: [{ kind: "outcome", allowed: ["delivered", "obsolete"] }] },
    { from: "Ready to deploy", to: "Building", verb: "Pull out", requirements: [{ kind: "reason" }] },
    { from: null, to: "Closed", verb: "Close", requirements: [{ kind: "outcome", allowed: FINISHED_UNDELIVERED }] },
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
    { from: "Open", to: "Doing", verb: "Start", requirements: [] },
    { from: "Open", to: "Done", verb: "Finish", requirements: [{ kind: "outcome", allowed: ["delivered", "obsolete"] }] },
    { from: "Doing", to: "Done", verb: "Finish", requirements: [{ kind: "outcome", allowed: ["delivered", "obsolete"] }] },
    { from: "Doing", to: "Open", verb: "Put down", requirements: [] },
    { from: "Done", to: "Open", verb: "Reopen", requirements: [] },
  ],
};

/** What a project can be started from. */
export const PROJECT_TEMPLATES: readonly WorkflowTemplate[] = [BUILD_REVIEW_TEST_DEPLOY];

/**
 * A workflow made from a template.
 * @param newId gives a fresh id at each call
 * @throws Error when a transition names a state that the template does not have
 */
export function fromTemplate(template: WorkflowTemplate, newId: () => string): Workflow {
  const states = template.states.map((state, position) => ({ ...state, id: newId(), position }));
  const idOf = (name: string) => {
    const state = states.find((s) => s.name === name);
    if (!state) throw new Error(`template ${template.name} has no state ${name}`);
    return state.id;
  };
  const transitions = template.transitions.map((t) => ({ ...t, id: newId(), from: t.from === null ? null : idOf(t.from), to: idOf(t.to) }));
  return { id: newId(), name: template.name, version: 1, states, transitions };
}
