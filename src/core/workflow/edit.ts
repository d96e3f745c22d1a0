import { cutText } from "@/core/formats/cut-text";
import { STATE_NAME_LENGTH } from "./definition";
import {
  leadsFrom,
  PLAIN_TRANSITION,
  statesInOrder,
  type Transition,
  type Workflow,
} from "./workflow";
import { PLAIN_STATE, type State, type StateId, type StateKind } from "./state";

/*
 * Changes to a workflow that is being designed. Each gives a new workflow and leaves the given one
 * as it is, so that a session of edits is a list of workflows that can be walked back and forth.
 * What makes no sense as a process is allowed here and told by the check.
 */

const renumbered = (states: readonly State[]): State[] =>
  states.map((s, position) => ({ ...s, position }));

/** A name that no other state has: "Waiting", "Waiting 2". */
export function freeName(workflow: Workflow, wanted: string): string {
  const taken = new Set(workflow.states.map((s) => s.name.toLowerCase()));
  const base = wanted.trim().slice(0, STATE_NAME_LENGTH - 4) || "New state";
  for (let n = 1; ; n++) {
    const name = n === 1 ? base : `${base} ${n}`;
    if (!taken.has(name.toLowerCase())) return name;
  }
}

export interface NewState {
  id: StateId;
  name: string;
  kind: StateKind;
  stage: string | null;
  /** Ids for the moves in and out, should there be any. */
  moveIds: [string, string];
}

/** The states of a workflow with a new one at a place in their order. */
export function statesWith(
  workflow: Workflow,
  at: number,
  { id, name, kind, stage }: Omit<NewState, "moveIds">,
): State[] {
  const states = statesInOrder(workflow);
  const state = { ...PLAIN_STATE, id, name: freeName(workflow, name), kind, stage, position: at };
  return renumbered([...states.slice(0, at), state, ...states.slice(at)]);
}

/**
 * A state right after another one, or at the beginning. The move that led on from there now leads
 * to the new state, with what it demanded; the way on from the new state is free.
 */
export function addState(
  workflow: Workflow,
  after: StateId | null,
  { moveIds, ...made }: NewState,
): Workflow {
  const { id } = made;
  const states = statesInOrder(workflow);
  const at = after === null ? 0 : states.findIndex((s) => s.id === after) + 1;
  const before = states[at];
  const link =
    after === null || !before
      ? undefined
      : workflow.transitions.find((t) => leadsFrom(t, after) && t.to === before.id);
  const transitions = workflow.transitions.flatMap((t): Transition[] => {
    if (t !== link) return [t];
    // Where the move led on from other states too, those keep their way.
    const others = t.from!.filter((f) => f !== after);
    const inward: Transition = { ...t, id: moveIds[0], from: [after!], to: id };
    const onward: Transition = {
      ...PLAIN_TRANSITION,
      id: moveIds[1],
      from: [id],
      to: before.id,
      verb: t.verb,
    };
    return [...(others.length > 0 ? [{ ...t, from: others }] : []), inward, onward];
  });
  return {
    ...workflow,
    states: statesWith(workflow, at, made),
    transitions,
  };
}

/** A state with some of its properties changed. */
export function changeState(
  workflow: Workflow,
  stateId: StateId,
  change: Partial<Omit<State, "id" | "position">>,
): Workflow {
  return {
    ...workflow,
    states: workflow.states.map((s) => (s.id === stateId ? { ...s, ...change } : s)),
  };
}

/** Without a state; moves that only led from or to it go with it. */
export function removeState(workflow: Workflow, stateId: StateId): Workflow {
  const states = statesInOrder(workflow)
    .filter((s) => s.id !== stateId)
    .map((s, position) => ({ ...s, position }));
  const transitions = workflow.transitions.flatMap((t) => {
    if (t.to === stateId) return [];
    if (t.from === null) return [t];
    const from = t.from.filter((id) => id !== stateId);
    return from.length > 0 ? [{ ...t, from }] : [];
  });
  return { ...workflow, states, transitions };
}

/** The same states with one of them so many places further along; moves stay as they are. */
export function moveState(workflow: Workflow, stateId: StateId, by: number): Workflow {
  const states = statesInOrder(workflow);
  const from = states.findIndex((s) => s.id === stateId);
  const to = Math.min(states.length - 1, Math.max(0, from + by));
  if (from < 0 || from === to) return workflow;
  const [state] = states.splice(from, 1);
  states.splice(to, 0, state);
  return { ...workflow, states: renumbered(states) };
}

/** A move that is to be made. */
export interface NewMove {
  id: string;
  /** Null: from anywhere. */
  from: StateId | null;
  to: StateId;
  verb: string;
}

/** A move between two states; where one exists already it stays the only one. */
export function connect(workflow: Workflow, { id, from, to, verb }: NewMove): Workflow {
  if (from === to) return workflow;
  const exists = workflow.transitions.some(
    (t) => t.to === to && (from === null ? t.from === null : leadsFrom(t, from)),
  );
  return exists
    ? workflow
    : {
        ...workflow,
        transitions: [
          ...workflow.transitions,
          { ...PLAIN_TRANSITION, id, from: from === null ? null : [from], to, verb },
        ],
      };
}

/** Takes a move between two states away; a move that leads from several states keeps the others. */
export function disconnect(workflow: Workflow, from: StateId, to: StateId): Workflow {
  const transitions = workflow.transitions.flatMap((t) => {
    if (t.to !== to || !leadsFrom(t, from)) return [t];
    const others = t.from!.filter((f) => f !== from);
    return others.length > 0 ? [{ ...t, from: others }] : [];
  });
  return { ...workflow, transitions };
}

/** A workflow with one of its moves changed. */
export function changeTransition(
  workflow: Workflow,
  transitionId: string,
  change: Partial<Omit<Transition, "id">>,
): Workflow {
  return {
    ...workflow,
    transitions: workflow.transitions.map((t) => (t.id === transitionId ? { ...t, ...change } : t)),
  };
}

/** A workflow without one of its moves. */
export function removeTransition(workflow: Workflow, transitionId: string): Workflow {
  return { ...workflow, transitions: workflow.transitions.filter((t) => t.id !== transitionId) };
}

/** What a new move between two states is called until somebody says better. */
export function proposedVerb(from: State | null, to: State): string {
  if (to.kind === "unstarted") return "Put back";
  if (to.kind === "finished") return "Finish";
  if (from && from.position > to.position) return cutText(`Back to ${to.name}`, 60);
  return to.kind === "working"
    ? cutText(`Start ${to.name.toLowerCase()}`, 60)
    : cutText(`Hand to ${to.name.toLowerCase()}`, 60);
}
