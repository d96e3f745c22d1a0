import { and, eq, inArray, isNull, or, sql } from "drizzle-orm";
import type { LimitedColumn } from "@/core/board/limit";
import { columnWords } from "@/core/board/column";
import type { Transaction } from "@/db/connection";
import { boardColumn, columnState, item } from "@/db/schema";

/**
 * The columns on all boards that a move leaves and enters, with their counts. Columns with a firm limit are locked
 * first, in the order of their ids, so that nobody else can change their count until the move is stored.
 */
export async function lockLimitedColumns(
  tx: Transaction,
  fromStateId: string,
  toStateId: string,
): Promise<{ left: LimitedColumn[]; entered: LimitedColumn[] }> {
  const locked = await tx
    .select({
      column: boardColumn,
      stateIds: sql<string[]>`(select array_agg(${columnState.stateId}) from ${columnState} where ${columnState.columnId} = ${boardColumn.id})`,
    })
    .from(boardColumn)
    .where(
      and(
        or(boardColumn.maxFirm, boardColumn.minFirm),
        inArray(boardColumn.id, tx.select({ id: columnState.columnId }).from(columnState).where(inArray(columnState.stateId, [fromStateId, toStateId]))),
      ),
    )
    .orderBy(boardColumn.id)
    .for("update", { of: boardColumn });
  if (locked.length === 0) return { left: [], entered: [] };

  const counts = await tx
    .select({ columnId: columnState.columnId, count: sql<number>`count(*)::int` })
    .from(item)
    .innerJoin(columnState, eq(columnState.stateId, item.stateId))
    .where(and(inArray(columnState.columnId, locked.map(({ column }) => column.id)), isNull(item.withdrawnAt)))
    .groupBy(columnState.columnId);
  const countOf = new Map(counts.map((c) => [c.columnId, c.count]));
  const holding = (stateId: string) =>
    locked
      .filter(({ stateIds }) => stateIds.includes(stateId))
      .map(({ column: { id, min, max, minFirm, maxFirm, stage, name } }) => ({ id, name: columnWords({ stage, name }), min, max, minFirm, maxFirm, count: countOf.get(id) ?? 0 }));
  return { left: holding(fromStateId), entered: holding(toStateId) };
}
