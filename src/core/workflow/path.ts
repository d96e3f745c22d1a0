import { disconnect, moveState, removeState, statesWith, type NewState } from "./edit";
import { same } from "./same";
import type { State, StateId } from "./state";
import {
  leadsFrom,
  PLAIN_TRANSITION,
  statesInOrder,
  type Transition,
  type Workflow,
} from "./workflow";

/*
 * Changes of the path that items take from state to state: where a state goes, comes between two
 * others, or takes another place, the moves beside it are put together so that the path goes on and
 * no rule is lost.
 */

const moveBetween = (workflow: Workflow, from: StateId, to: StateId): Transition | undefined =>
  workflow.transitions.find((t) => t.to === to && leadsFrom(t, from));

/** Without doubles, in the order in which they come. */
const once = <T>(all: readonly T[]): T[] =>
  all.filter((one, i) => all.findIndex((other) => same(one, other)) === i);

/** One move in place of two that followed each other, with all that both demanded and did. */
const joined = (first: Transition, second: Transition): Partial<Transition> => ({
  requirements: once([...first.requirements, ...second.requirements]),
  followUps: once([...first.followUps, ...second.followUps]),
  who: first.who.length > 0 ? first.who : second.who,
  triggers: once([...first.triggers, ...second.triggers]),
});

/** The states before and after one, in the order of the process. */
function beside(workflow: Workflow, stateId: StateId): [before?: State, after?: State] {
  const states = statesInOrder(workflow);
  const at = states.findIndex((s) => s.id === stateId);
  return [states[at - 1], states[at + 1]];
}

/** The moves of the path into a state and out of it; nothing where the path does not run there. */
function through(workflow: Workflow, stateId: StateId) {
  const [before, after] = beside(workflow, stateId);
  const inward = before && moveBetween(workflow, before.id, stateId);
  const onward = after && moveBetween(workflow, stateId, after.id);
  return inward && onward ? { before, after, inward, onward } : null;
}

/**
 * Takes a state out. Where the path ran through it, its neighbours are joined by one move that keeps
 * the verb of the first and the rules of both, unless such a move is there already.
 * @param id of the move that joins them
 */
export function takeOutState(workflow: Workflow, stateId: StateId, id: string): Workflow {
  const path = through(workflow, stateId);
  const without = removeState(workflow, stateId);
  if (!path) return without;
  const { before, after, inward, onward } = path;
  if (moveBetween(without, before.id, after.id)) return without;
  const join = { ...inward, id, from: [before.id], to: after.id, ...joined(inward, onward) };
  return { ...without, transitions: [...without.transitions, join] };
}

/** How a state comes between two others. */
export interface Between {
  /** The move that it comes into, and from which of its states. */
  transitionId: string;
  from: StateId;
  /** What the moves into it and out of it are called. */
  verbs: [inward: string, onward: string];
  /** Which of the two keeps the rules that the one move had. */
  rulesOn: "inward" | "onward";
}

/** Puts a new state into a move: two moves in place of one, one of them with its rules. */
export function insertState(
  workflow: Workflow,
  { transitionId, from, verbs, rulesOn }: Between,
  { moveIds, ...made }: NewState,
): Workflow {
  const move = workflow.transitions.find((t) => t.id === transitionId);
  if (!move || !leadsFrom(move, from)) return workflow;
  const { id } = made;
  const at = statesInOrder(workflow).findIndex((s) => s.id === from) + 1;
  const half = (which: Between["rulesOn"]): Transition => ({
    ...(which === rulesOn ? move : PLAIN_TRANSITION),
    id: moveIds[which === "inward" ? 0 : 1],
    from: [which === "inward" ? from : id],
    to: which === "inward" ? id : move.to,
    verb: verbs[which === "inward" ? 0 : 1],
  });
  return {
    ...workflow,
    states: statesWith(workflow, at, made),
    transitions: [
      ...disconnect(workflow, from, move.to).transitions,
      half("inward"),
      half("onward"),
    ],
  };
}

/**
 * Moves a state along and the path with it: its old neighbours are joined, and the path between its
 * new ones runs through it. Rules stay with the moves that they were on: those of the way into the
 * state with that way, those of the way out with that.
 * @param ids of the move that joins, and of the ways in and out where the old ones stay elsewhere
 */
export function moveWithPath(
  workflow: Workflow,
  stateId: StateId,
  by: number,
  ids: [join: string, inward: string, onward: string],
): Workflow {
  const old = through(workflow, stateId);
  const moved = moveState(workflow, stateId, by);
  if (moved === workflow || !old) return moved;
  const [before, after] = beside(moved, stateId);
  const cut = [
    [old.before.id, stateId],
    [stateId, old.after.id],
  ].reduce((w, [from, to]) => disconnect(w, from, to), moved);
  const transitions = [...cut.transitions];
  const add = (move: Transition) => {
    const known = transitions.some((t) => t.to === move.to && leadsFrom(t, move.from![0]));
    if (!known && move.from![0] !== move.to) transitions.push(move);
  };
  // Its rules went with the way into the state; the join is a plain way on.
  add({
    ...PLAIN_TRANSITION,
    id: ids[0],
    from: [old.before.id],
    to: old.after.id,
    verb: old.onward.verb,
  });
  const idOf = (move: Transition, fresh: string) =>
    transitions.some((t) => t.id === move.id) ? fresh : move.id;
  if (before) add({ ...old.inward, id: idOf(old.inward, ids[1]), from: [before.id], to: stateId });
  if (after) add({ ...old.onward, id: idOf(old.onward, ids[2]), from: [stateId], to: after.id });
  const next = { ...cut, transitions };
  if (!before || !after) return next;
  // The way past it, between its new neighbours, stays only where it demands something of its own.
  const past = moveBetween(next, before.id, after.id);
  return past && isPlain(past) ? disconnect(next, before.id, after.id) : next;
}

const isPlain = ({ requirements, followUps, who, triggers }: Transition): boolean =>
  [requirements, followUps, who, triggers].every((list) => list.length === 0);
