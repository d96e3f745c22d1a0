import { isInProgress, type StateId } from "@/core/workflow/state";
import { stateOf, transitionsFrom, type Transition, type Workflow } from "@/core/workflow/workflow";

/**
 * The move that takes an item out of the backlog into the process: into the earliest column of the
 * board that one leads to. Where none leads into a column, into the earliest state in progress; null
 * where none leads into the process at all.
 * @param columns the states of each column, from the first to the last
 */
export function pullMove(
  workflow: Workflow,
  from: StateId,
  columns: readonly (readonly StateId[])[],
): Transition | null {
  const into = transitionsFrom(workflow, from).filter(({ to }) =>
    isInProgress(stateOf(workflow, to).kind),
  );
  const columnOf = ({ to }: Transition) => {
    const at = columns.findIndex((states) => states.includes(to));
    return at < 0 ? columns.length : at;
  };
  const placeOf = ({ to }: Transition) => stateOf(workflow, to).position;
  const inOrder = [...into].sort((a, b) => columnOf(a) - columnOf(b) || placeOf(a) - placeOf(b));
  return inOrder[0] ?? null;
}

/**
 * The move that takes an item into one of some states, into the earliest of them; null where none
 * leads there, or it is in one of them.
 */
export function moveInto(
  workflow: Workflow,
  from: StateId,
  states: readonly StateId[],
): Transition | null {
  if (states.includes(from)) return null;
  const placeOf = ({ to }: Transition) => stateOf(workflow, to).position;
  const into = transitionsFrom(workflow, from).filter(({ to }) => states.includes(to));
  return into.sort((a, b) => placeOf(a) - placeOf(b))[0] ?? null;
}
