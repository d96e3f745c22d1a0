import { and, eq, inArray, isNull, sql } from "drizzle-orm";
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
  const columns = await tx
    .select({ column: boardColumn, stateId: columnState.stateId })
    .from(columnState)
    .innerJoin(boardColumn, eq(boardColumn.id, columnState.columnId))
    .where(inArray(columnState.stateId, [fromStateId, toStateId]));
  const firm = new Set(columns.filter(({ column }) => column.maxFirm || column.minFirm).map(({ column }) => column.id));
  if (firm.size === 0) return { left: [], entered: [] };

  const locked = await tx.select().from(boardColumn).where(inArray(boardColumn.id, [...firm])).orderBy(boardColumn.id).for("update");
  const counts = await tx
    .select({ columnId: columnState.columnId, count: sql<number>`count(*)::int` })
    .from(item)
    .innerJoin(columnState, eq(columnState.stateId, item.stateId))
    .where(and(inArray(columnState.columnId, [...firm]), isNull(item.withdrawnAt)))
    .groupBy(columnState.columnId);
  const countOf = new Map(counts.map((c) => [c.columnId, c.count]));
  const holding = (stateId: string) =>
    locked
      .filter((column) => columns.some((c) => c.stateId === stateId && c.column.id === column.id))
      .map(({ id, min, max, minFirm, maxFirm, stage, name }) => ({ id, name: columnWords({ stage, name }), min, max, minFirm, maxFirm, count: countOf.get(id) ?? 0 }));
  return { left: holding(fromStateId), entered: holding(toStateId) };
}
