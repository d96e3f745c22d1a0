import { refuse, type Refusal } from "./refusal";
import { statesInOrder, type State, type StateId, type StateKind, type Transition, type Workflow } from "./workflow";

/** A change to the process that leaves every item where it is. */
export type WorkflowEdit =
  | { kind: "rename state"; stateId: StateId; name: string }
  | { kind: "reorder states"; order: StateId[] }
  | {
      kind: "add state";
      id: StateId;
      name: string;
      stateKind: Extract<StateKind, "waiting" | "working">;
      stage: string | null;
      after: StateId;
      before: StateId;
      /** Ids for the two transitions that lead in and out. */
      transitionIds: [string, string];
    };

export const STATE_NAME_LENGTH = 60;

export interface EditedWorkflow {
  refused: false;
  workflow: Workflow;
  /** What changed, in words, for the version list and for people with an open board. */
  summary: string;
}

/** The workflow after an edit, one version on; or why the edit cannot be made. The given workflow stays as it is. */
export function editWorkflow(workflow: Workflow, edit: WorkflowEdit): EditedWorkflow | Refusal {
  switch (edit.kind) {
    case "rename state": {
      const state = workflow.states.find((s) => s.id === edit.stateId);
      if (!state) return noState();
      const name = edit.name.trim();
      const problem = nameProblem(workflow, name, state.id);
      if (problem) return problem;
      return edited(workflow, { states: workflow.states.map((s) => (s.id === state.id ? { ...s, name } : s)) }, `${state.name} is now called ${name}`);
    }
    case "reorder states":
      return reorder(workflow, edit.order);
    case "add state":
      return addState(workflow, edit);
  }
}

function reorder(workflow: Workflow, order: readonly StateId[]): EditedWorkflow | Refusal {
  const known = new Set(workflow.states.map((s) => s.id));
  if (order.length !== known.size || new Set(order).size !== known.size || order.some((id) => !known.has(id)))
    return refuse("invalid", "The new order does not name each state once.", "Reload the page: the states have changed meanwhile.");
  const states = order.map((id, position) => ({ ...workflow.states.find((s) => s.id === id)!, position }));
  const rankOf = (kind: StateKind) => (kind === "unstarted" ? 0 : kind === "finished" ? 2 : 1);
  const misplaced = states.find((s, i) => i > 0 && rankOf(s.kind) < rankOf(states[i - 1].kind));
  if (misplaced)
    return refuse(
      "invalid",
      `${misplaced.name} cannot stand there.`,
      "Unstarted states come first and finished ones last; what is in progress stands between them.",
    );
  return edited(workflow, { states }, `the order is now ${states.map((s) => s.name).join(", ")}`);
}

function addState(workflow: Workflow, edit: Extract<WorkflowEdit, { kind: "add state" }>): EditedWorkflow | Refusal {
  const after = workflow.states.find((s) => s.id === edit.after);
  const before = workflow.states.find((s) => s.id === edit.before);
  if (!after || !before) return noState();
  const name = edit.name.trim();
  const problem = nameProblem(workflow, name, null);
  if (problem) return problem;
  const link = workflow.transitions.find((t) => t.from === after.id && t.to === before.id);
  if (!link)
    return refuse("invalid", `No move leads from ${after.name} to ${before.name}.`, "Add the state between two that follow each other.");
  if (before.kind === "unstarted" || after.kind === "finished")
    return refuse("invalid", "A state in progress cannot stand there.", "Add it after an unstarted state and before a finished one.");
  const states: State[] = [];
  for (const state of statesInOrder(workflow)) {
    states.push(state);
    if (state.id === after.id) states.push({ id: edit.id, name, kind: edit.stateKind, stage: edit.stage, position: 0 });
  }
  const [inId, outId] = edit.transitionIds;
  // What the move demanded is demanded on the way in; the way on is free.
  const transitions: Transition[] = workflow.transitions.flatMap((t) =>
    t === link
      ? [
          { ...t, id: inId, to: edit.id },
          { id: outId, from: edit.id, to: before.id, verb: link.verb, requirements: [] },
        ]
      : [t],
  );
  return edited(
    workflow,
    { states: states.map((s, position) => ({ ...s, position })), transitions },
    `${name} now stands between ${after.name} and ${before.name}`,
  );
}

function edited(workflow: Workflow, change: Partial<Workflow>, summary: string): EditedWorkflow {
  return { refused: false, workflow: { ...workflow, ...change, version: workflow.version + 1 }, summary };
}

function noState(): Refusal {
  return refuse("not found", "This workflow has no such state.", "Reload the page: somebody may have changed it.");
}

function nameProblem(workflow: Workflow, name: string, self: StateId | null): Refusal | null {
  if (!name) return refuse("invalid", "A state needs a name.", "Call it what people say when an item is there.");
  if (name.length > STATE_NAME_LENGTH)
    return refuse("invalid", `This name has ${name.length} characters.`, `Use at most ${STATE_NAME_LENGTH}, so that it can be read on a board.`);
  const twin = workflow.states.find((s) => s.id !== self && s.name.toLowerCase() === name.toLowerCase());
  return twin ? refuse("invalid", `There is a state called ${twin.name} already.`, "Choose a name that tells the two apart.") : null;
}
