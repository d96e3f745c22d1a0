import type { Transition, Workflow } from "./workflow";
import type { StateId } from "./state";

/** Where a transition can be made from. */
export function sourcesOf(workflow: Workflow, transition: Transition): StateId[] {
  return transition.from ?? workflow.states.map((s) => s.id).filter((id) => id !== transition.to);
}

/** For each state, the states that one move leads to. */
export function successors(workflow: Workflow): Map<StateId, Set<StateId>> {
  const next = new Map<StateId, Set<StateId>>(workflow.states.map((s) => [s.id, new Set()]));
  for (const t of workflow.transitions)
    for (const from of sourcesOf(workflow, t)) if (from !== t.to) next.get(from)?.add(t.to);
  return next;
}

/**
 * The states that can be reached from some states by any number of moves, these included. One pass
 * over the moves.
 */
export function reachableFrom(
  next: ReadonlyMap<StateId, ReadonlySet<StateId>>,
  starts: Iterable<StateId>,
): Set<StateId> {
  const reached = new Set(starts);
  const queue = [...reached];
  for (let state = queue.pop(); state !== undefined; state = queue.pop())
    for (const to of next.get(state) ?? [])
      if (!reached.has(to)) {
        reached.add(to);
        queue.push(to);
      }
  return reached;
}

/** The same moves the other way round. */
export function reversed(
  next: ReadonlyMap<StateId, ReadonlySet<StateId>>,
): Map<StateId, Set<StateId>> {
  const back = new Map<StateId, Set<StateId>>([...next.keys()].map((id) => [id, new Set()]));
  for (const [from, targets] of next) for (const to of targets) back.get(to)?.add(from);
  return back;
}
