import { and, eq, inArray } from "drizzle-orm";
import { showWorkflow, type WidenedColumn } from "@/core/board/show-workflow";
import type { Workflow } from "@/core/workflow/workflow";
import type { StateId } from "@/core/workflow/state";
import type { Transaction } from "@/db/connection";
import { board, boardColumn, columnState } from "@/db/schema";
import { v7 as newId } from "uuid";
import { loadColumns, statesShownBeside } from "./load";
import { settleLimits } from "./limits";
import { removeEmptyColumns } from "./remove-columns";

/** The first board of a project by the states of its process; it cannot be without one. */
async function firstBoard(tx: Transaction, projectId: string) {
  const [first] = await tx
    .select({ id: board.id, projectId: board.projectId })
    .from(board)
    .where(and(eq(board.projectId, projectId), eq(board.columnsBy, "state")))
    .orderBy(board.position, board.id)
    .limit(1)
    .for("update");
  return first;
}

/**
 * Lets the boards of a project follow a change of a workflow: columns that were called what their
 * state was called follow a new name, a new state in progress gets its place on the first board,
 * and a column whose last state is gone goes too.
 */
export async function showStates({
  tx,
  projectId,
  before,
  after,
}: {
  tx: Transaction;
  projectId: string;
  before: Workflow;
  after: Workflow;
}): Promise<void> {
  const first = await firstBoard(tx, projectId);
  if (!first) return;
  await renameColumns(tx, before, after);
  const isNew = (id: StateId) => !before.states.some((s) => s.id === id);
  const made = after.states.filter((s) => isNew(s.id)).map((s) => s.id);
  await storeWidened(tx, first.id, showWorkflow(await loadColumns(tx, first.id), after, made));
  await removeEmptyColumns(tx, eq(boardColumn.boardId, first.id));
  await settleLimits(tx, projectId, await loadColumns(tx, first.id));
}

/** Puts the states of a workflow that no board of the project shows onto its first board. */
export async function showUnshown(
  tx: Transaction,
  projectId: string,
  workflow: Workflow,
): Promise<void> {
  const first = await firstBoard(tx, projectId);
  if (!first) return;
  const beside = await statesShownBeside(tx, first);
  const unshown = workflow.states.map((s) => s.id).filter((id) => !beside.includes(id));
  await storeWidened(
    tx,
    first.id,
    showWorkflow(await loadColumns(tx, first.id), workflow, unshown),
  );
}

async function renameColumns(tx: Transaction, before: Workflow, after: Workflow): Promise<void> {
  for (const state of after.states) {
    const old = before.states.find((s) => s.id === state.id)?.name;
    if (old === undefined || old === state.name) continue;
    const columns = tx
      .select({ id: columnState.columnId })
      .from(columnState)
      .where(eq(columnState.stateId, state.id));
    await tx
      .update(boardColumn)
      .set({ name: state.name })
      .where(and(inArray(boardColumn.id, columns), eq(boardColumn.name, old)));
  }
}

/** Stores columns in their order, with what they show beyond what they did. */
async function storeWidened(
  tx: Transaction,
  boardId: string,
  columns: readonly WidenedColumn[],
): Promise<void> {
  if (columns.every((c) => c.added.length === 0)) return;
  for (const [position, { id, stage, name, part, added }] of columns.entries()) {
    const columnId = id ?? newId();
    if (id === null)
      await tx.insert(boardColumn).values({ id: columnId, boardId, stage, name, part, position });
    else await tx.update(boardColumn).set({ position }).where(eq(boardColumn.id, id));
    if (added.length > 0)
      await tx.insert(columnState).values(added.map((stateId) => ({ boardId, columnId, stateId })));
  }
}
