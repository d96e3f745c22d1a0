import type { FollowUp } from "./follow-ups/table";
import type { Mover } from "./requirement";
import type { Requirement } from "./requirements/table";
import type { State, StateId } from "./state";
import type { Trigger } from "./trigger";

export interface Transition {
  id: string;
  /** Where it leads from: one state or several; null: any state. */
  from: StateId[] | null;
  to: StateId;
  /** What its button says, e.g. "Start review". */
  verb: string;
  /** Who may make it: any of these; empty: everyone who may move items. */
  who: Mover[];
  requirements: Requirement[];
  followUps: FollowUp[];
  /** Events that make it happen by itself. */
  triggers: Trigger[];
}

/** What a transition is unless somebody says otherwise. */
export const PLAIN_TRANSITION = {
  who: [],
  requirements: [],
  followUps: [],
  triggers: [],
} satisfies Partial<Transition>;

export interface Workflow {
  id: string;
  name: string;
  /** Counts published changes. */
  version: number;
  states: State[];
  transitions: Transition[];
}

/** Whether a transition is one of those that lead out of a state by name, not from anywhere. */
export function leadsFrom(transition: Transition, from: StateId): boolean {
  return transition.from !== null && transition.from.includes(from);
}

/**
 * The state of this id. @throws Error when the workflow has none, which means that stored data is
 * broken
 */
export function stateOf(workflow: Workflow, id: StateId): State {
  const state = workflow.states.find((s) => s.id === id);
  if (!state) throw new Error(`workflow ${workflow.id} has no state ${id}`);
  return state;
}

/** States in process order. */
export function statesInOrder(workflow: Workflow): State[] {
  return [...workflow.states].sort((a, b) => a.position - b.position);
}

/** The moves allowed out of a state, "from any" moves last; a move to the state itself is none. */
export function transitionsFrom(workflow: Workflow, from: StateId): Transition[] {
  const own = workflow.transitions.filter((t) => leadsFrom(t, from) && t.to !== from);
  const fromAny = workflow.transitions.filter(
    (t) => t.from === null && t.to !== from && !own.some((o) => o.to === t.to),
  );
  const order = new Map(workflow.states.map((s) => [s.id, s.position]));
  const byTarget = (a: Transition, b: Transition) =>
    (order.get(b.to) ?? 0) - (order.get(a.to) ?? 0);
  const here = order.get(from) ?? 0;
  const onward = own.filter((t) => (order.get(t.to) ?? 0) > here).sort((a, b) => byTarget(b, a));
  const back = own.filter((t) => (order.get(t.to) ?? 0) <= here).sort(byTarget);
  return [...onward, ...back, ...fromAny.sort((a, b) => byTarget(b, a))];
}

/**
 * The transition that leads from one state to another, or undefined where the move does not exist.
 */
export function transitionBetween(
  workflow: Workflow,
  from: StateId,
  to: StateId,
): Transition | undefined {
  return transitionsFrom(workflow, from).find((t) => t.to === to);
}

/**
 * Whether a move is rework: backwards to an earlier stage, or out of a finished state into the
 * process again. A stage stands where its first state stands; a state without a stage is a stage of
 * its own.
 */
export function isReturn(workflow: Workflow, from: StateId, to: StateId): boolean {
  const a = stateOf(workflow, from);
  const b = stateOf(workflow, to);
  if (a.kind === "unstarted" || b.kind === "finished") return false;
  if (a.kind === "finished") return true;
  const place = (s: State) =>
    s.stage === null
      ? s.position
      : Math.min(...workflow.states.filter((x) => x.stage === s.stage).map((x) => x.position));
  return b.kind !== "unstarted" && place(b) < place(a);
}
