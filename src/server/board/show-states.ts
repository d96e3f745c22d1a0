import { and, eq, gte, inArray, notExists, sql } from "drizzle-orm";
import { partOf } from "@/core/board/column";
import { statesInOrder, type Workflow } from "@/core/workflow/workflow";
import { isInProgress, type StateId } from "@/core/workflow/state";
import type { Transaction } from "@/db/connection";
import { board, boardColumn, columnState } from "@/db/schema";
import { v7 as newId } from "uuid";
import { removeColumns } from "./remove-columns";

/**
 * Lets the boards of a project follow a change of a workflow: columns that were called what their
 * state was called follow a new name, a state in progress that no board shows gets a column before
 * the state that comes after it, and a column whose last state is gone goes too.
 */
export async function showStates({
  tx,
  projectId,
  before,
  after,
  shownBefore,
}: {
  tx: Transaction;
  projectId: string;
  before: Workflow;
  after: Workflow;
  shownBefore: readonly StateId[];
}): Promise<void> {
  const [first] = await tx
    .select({ id: board.id })
    .from(board)
    .where(and(eq(board.projectId, projectId), eq(board.columnsBy, "state")))
    .orderBy(board.position, board.id)
    .limit(1);
  if (!first) return;
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
  const shown = new Set(shownBefore);
  const isNew = (id: StateId) => !before.states.some((s) => s.id === id);
  const states = statesInOrder(after);
  for (const [i, state] of states.entries()) {
    if (shown.has(state.id) || !isNew(state.id) || !isInProgress(state.kind)) continue;
    const next = states.slice(i + 1).find((s) => shown.has(s.id));
    await addColumn(tx, first.id, state, next?.id ?? null);
    shown.add(state.id);
  }
  await removeEmptyColumns(tx, first.id);
}

async function addColumn(
  tx: Transaction,
  boardId: string,
  state: Workflow["states"][number],
  next: StateId | null,
): Promise<void> {
  const columns = await tx
    .select({ id: boardColumn.id, position: boardColumn.position, stateId: columnState.stateId })
    .from(boardColumn)
    .leftJoin(columnState, eq(columnState.columnId, boardColumn.id))
    .where(eq(boardColumn.boardId, boardId));
  const last = Math.max(-1, ...columns.map((c) => c.position));
  const position = columns.find((c) => next !== null && c.stateId === next)?.position ?? last + 1;
  await tx
    .update(boardColumn)
    .set({ position: sql`${boardColumn.position} + 1` })
    .where(and(eq(boardColumn.boardId, boardId), gte(boardColumn.position, position)));
  const id = newId();
  await tx.insert(boardColumn).values({
    id,
    boardId,
    stage: state.stage ?? state.name,
    name: state.stage ? state.name : "",
    part: partOf(state.kind),
    position,
  });
  await tx.insert(columnState).values({ boardId, columnId: id, stateId: state.id });
}

async function removeEmptyColumns(tx: Transaction, boardId: string): Promise<void> {
  const states = tx
    .select({ one: sql`1` })
    .from(columnState)
    .where(eq(columnState.columnId, boardColumn.id));
  await removeColumns(tx, and(eq(boardColumn.boardId, boardId), notExists(states)));
}
