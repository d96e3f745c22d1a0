import { and, eq, inArray, isNotNull, isNull, or, sql } from "drizzle-orm";
import type { LimitedColumn } from "@/core/board/limit";
import { columnWords } from "@/core/board/column";
import type { Workflow } from "@/core/workflow/workflow";
import type { Transaction } from "@/db/connection";
import { boardColumn, columnState, item, state } from "@/db/schema";

/**
 * What limits a move: the columns on all boards that it leaves and enters, and the states' own limits, with their counts.
 * They are locked first, in the order of their ids, so that nobody else can change their count until the move is stored.
 * Limits that are only advice matter, and are locked, where the transition wants "all".
 */
export async function lockLimits(
  tx: Transaction,
  workflow: Workflow,
  fromStateId: string,
  toStateId: string,
  wanted: "firm" | "all",
): Promise<{ left: LimitedColumn[]; entered: LimitedColumn[] }> {
  const columns = await lockColumns(tx, [fromStateId, toStateId], wanted);
  const states = await lockStates(tx, workflow, [fromStateId, toStateId], wanted);
  const holding = (stateId: string) => [...columns, ...states].filter((c) => c.stateIds.includes(stateId)).map(({ stateIds: _, ...column }) => column);
  return { left: holding(fromStateId), entered: holding(toStateId) };
}

type Holding = LimitedColumn & { stateIds: string[] };

async function lockColumns(tx: Transaction, stateIds: string[], wanted: "firm" | "all"): Promise<Holding[]> {
  const locked = await tx
    .select({
      column: boardColumn,
      stateIds: sql<string[]>`(select array_agg(${columnState.stateId}) from ${columnState} where ${columnState.columnId} = ${boardColumn.id})`,
    })
    .from(boardColumn)
    .where(
      and(
        or(boardColumn.maxFirm, boardColumn.minFirm, wanted === "all" ? isNotNull(boardColumn.max) : undefined),
        inArray(boardColumn.id, tx.select({ id: columnState.columnId }).from(columnState).where(inArray(columnState.stateId, stateIds))),
      ),
    )
    .orderBy(boardColumn.id)
    .for("update", { of: boardColumn });
  if (locked.length === 0) return [];
  const counts = await tx
    .select({ columnId: columnState.columnId, count: sql<number>`count(*)::int` })
    .from(item)
    .innerJoin(columnState, eq(columnState.stateId, item.stateId))
    .where(and(inArray(columnState.columnId, locked.map(({ column }) => column.id)), isNull(item.withdrawnAt)))
    .groupBy(columnState.columnId);
  const countOf = new Map(counts.map((c) => [c.columnId, c.count]));
  return locked.map(({ column: { id, min, max, minFirm, maxFirm, stage, name }, stateIds }) => ({ id, name: columnWords({ stage, name }), min, max, minFirm, maxFirm, count: countOf.get(id) ?? 0, stateIds }));
}

async function lockStates(tx: Transaction, workflow: Workflow, stateIds: string[], wanted: "firm" | "all"): Promise<Holding[]> {
  const limited = workflow.states.filter((s) => stateIds.includes(s.id) && s.limit && (s.limit.firm || wanted === "all"));
  if (limited.length === 0) return [];
  const ids = limited.map((s) => s.id);
  await tx.select({ id: state.id }).from(state).where(inArray(state.id, ids)).orderBy(state.id).for("no key update");
  const counts = await tx.select({ id: item.stateId, count: sql<number>`count(*)::int` }).from(item).where(and(inArray(item.stateId, ids), isNull(item.withdrawnAt))).groupBy(item.stateId);
  const countOf = new Map(counts.map((c) => [c.id, c.count]));
  return limited.map(({ id, name, limit }) => ({ id: `state ${id}`, name, min: null, max: limit!.max, minFirm: false, maxFirm: limit!.firm, count: countOf.get(id) ?? 0, stateIds: [id] }));
}
