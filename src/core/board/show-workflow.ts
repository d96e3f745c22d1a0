import { statesInOrder, type Workflow } from "@/core/workflow/workflow";
import { isInProgress, type State, type StateId } from "@/core/workflow/state";
import { partOf, type Column } from "./column";
import type { ProposedColumn } from "./propose-columns";

/** A column of a board that shall show more than it does: which it is, null for one to be made. */
export interface WidenedColumn extends ProposedColumn {
  id: string | null;
  /** Those of its states that it does not show yet. */
  added: StateId[];
}

type Shown = Pick<Column, "id" | "stage" | "name" | "part" | "stateIds">;

/**
 * All columns of a board, in order, as they are once it shows a workflow: every state in progress,
 * and the first finished one. A state stands in the column of the same part of the same stage, if
 * that shows another workflow; otherwise it gets a column in its place in the process.
 * @param among only these states are added
 */
export function showWorkflow(
  columns: readonly Shown[],
  workflow: Workflow,
  among: readonly StateId[] = workflow.states.map((s) => s.id),
): WidenedColumn[] {
  const widened: WidenedColumn[] = columns.map((c) => ({ ...c, added: [] }));
  const states = statesInOrder(workflow);
  const own = new Set(states.map((s) => s.id));
  const columnOf = (id: StateId) => widened.findIndex((c) => c.stateIds.includes(id));
  const add = (column: WidenedColumn, id: StateId) => {
    column.stateIds = [...column.stateIds, id];
    column.added.push(id);
  };
  const missing = states.filter((s) => among.includes(s.id) && columnOf(s.id) < 0 && wanted(s));
  // Columns that are there already come first: new ones find their places between them.
  for (const state of missing) {
    const like = widened.find((c) => sharedBy(c, state));
    if (like) add(like, state.id);
  }
  for (const state of missing.filter((s) => columnOf(s.id) < 0)) {
    const { stage, name, kind } = state;
    const made: WidenedColumn = {
      id: null,
      stage: stage ?? name,
      name: stage ? name : "",
      part: partOf(kind),
      stateIds: [],
      added: [],
    };
    add(made, state.id);
    widened.splice(placeFor(states.indexOf(state)), 0, made);
  }
  return widened;

  /** The same part of the same stage of another workflow; all that is finished stands together. */
  function sharedBy({ part, stage, stateIds }: WidenedColumn, state: State): boolean {
    if (part !== partOf(state.kind)) return false;
    const sameStage = stage === (state.stage ?? state.name) && !stateIds.some((id) => own.has(id));
    return part === "finished" || sameStage;
  }

  /** A workflow's first finished state; the other ways to end need no column. */
  function wanted(state: State): boolean {
    if (isInProgress(state.kind)) return true;
    const finished = states.filter((s) => s.kind === "finished");
    return state === finished[0] && finished.every((s) => columnOf(s.id) < 0);
  }

  /** Before the state that comes next, else behind the one before, else before what is finished. */
  function placeFor(i: number): number {
    const next = states.slice(i + 1).find((s) => columnOf(s.id) >= 0);
    if (next) return columnOf(next.id);
    const before = states.slice(0, i).findLast((s) => columnOf(s.id) >= 0);
    if (before) return columnOf(before.id) + 1;
    const finished = widened.findIndex((c) => c.part === "finished");
    return finished < 0 || states[i].kind === "finished" ? widened.length : finished;
  }
}

/** What becomes of a board that shows more, as a person reads it, a sentence a column. */
export function widenedWords(columns: readonly WidenedColumn[], workflow: Workflow): string[] {
  const nameOf = (id: StateId) => workflow.states.find((s) => s.id === id)?.name ?? "a state";
  return columns
    .filter((c) => c.added.length > 0)
    .map(({ id, stage, added }) =>
      id === null
        ? `${added.map(nameOf).join(", ")}: a new column`
        : `${added.map(nameOf).join(", ")}: in the column ${stage}`,
    );
}
