import { and, eq, ne } from "drizzle-orm";
import type { Column } from "@/core/board/column";
import type { DesignedColumns } from "@/core/board/columns-by";
import type { Condition } from "@/core/condition/condition";
import type { StateId } from "@/core/workflow/state";
import type { Reader } from "@/db/connection";
import { board, boardColumn, columnState } from "@/db/schema";
import { notFound } from "../refused";

/** The boards of a project, in their order. */
export async function loadBoards(
  reader: Reader,
  projectId: string,
): Promise<
  {
    id: string;
    name: string;
    columnsBy: DesignedColumns;
    version: number;
    scope: Condition | null;
  }[]
> {
  return reader
    .select({
      id: board.id,
      name: board.name,
      columnsBy: board.columnsBy,
      version: board.version,
      scope: board.scope,
    })
    .from(board)
    .where(eq(board.projectId, projectId))
    .orderBy(board.position, board.id);
}

/**
 * A project's board and its columns in order; its first board of the process where none is named.
 * @throws Refused when there is none
 */
export async function loadBoard(
  reader: Reader,
  projectId: string,
  boardId: string | null = null,
): Promise<{ board: typeof board.$inferSelect; columns: Column[] }> {
  const named = and(
    eq(board.projectId, projectId),
    boardId === null ? eq(board.columnsBy, "state") : eq(board.id, boardId),
  );
  const [head] = await reader
    .select()
    .from(board)
    .where(named)
    .orderBy(board.position, board.id)
    .limit(1);
  if (!head) throw notFound("board");
  return { board: head, columns: await loadColumns(reader, head.id) };
}

/** The states that the other boards of a board's project show. */
export async function statesShownBeside(
  reader: Reader,
  { id, projectId }: { id: string; projectId: string },
): Promise<StateId[]> {
  const rows = await reader
    .selectDistinct({ stateId: columnState.stateId })
    .from(columnState)
    .innerJoin(board, eq(board.id, columnState.boardId))
    .where(and(eq(board.projectId, projectId), ne(board.id, id)));
  return rows.map((r) => r.stateId);
}

export async function loadColumns(reader: Reader, boardId: string): Promise<Column[]> {
  const rows = await reader
    .select()
    .from(boardColumn)
    .where(eq(boardColumn.boardId, boardId))
    .orderBy(boardColumn.position);
  const states = await reader.select().from(columnState).where(eq(columnState.boardId, boardId));
  return rows.map(({ boardId: _, ...column }) => ({
    ...column,
    stateIds: states.filter((s) => s.columnId === column.id).map((s) => s.stateId),
  }));
}
