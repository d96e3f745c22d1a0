import { and, eq, inArray, isNotNull, isNull, or, sql } from "drizzle-orm";
import type { LimitedColumn } from "@/core/board/limit";
import { columnWords } from "@/core/board/column";
import { holds, type Asker } from "@/core/condition/evaluate";
import type { AskedItem } from "@/core/condition/facts";
import type { ItemSnapshot } from "@/core/item/fields";
import { stateOf, type Workflow } from "@/core/workflow/workflow";
import type { StateId } from "@/core/workflow/state";
import type { Reader, Transaction } from "@/db/connection";
import { board, boardColumn, columnState, item, state } from "@/db/schema";
import { namedQuery } from "@/db/statement";
import { projectAsker } from "../condition/asker";
import { askedItem } from "../condition/asked-items";
import { columnCounts } from "./column-counts";

/** A move of an item, as far as limits matter for it. */
export interface LimitedMove {
  project: { id: string; zone: string };
  workflow: Workflow;
  before: ItemSnapshot;
  to: StateId;
  /** Limits that are only advice matter, and are locked, where the transition wants "all". */
  wanted: "firm" | "all";
  now: number;
}

/**
 * What limits a move: the columns on all boards that it leaves and enters, and the states' own
 * limits, with their counts. They are locked first, in the order of their ids, so that nobody else
 * can change their count until the move is stored. A board counts what is in its scope, and so does
 * its limit: a move of an item outside it is not limited by it.
 */
export async function lockLimits(
  tx: Transaction,
  move: LimitedMove,
): Promise<{ left: LimitedColumn[]; entered: LimitedColumn[] }> {
  const columns = await lockColumns(tx, move);
  const states = await lockStates(tx, move);
  const plain = ({ stateIds: _, scoped: _scoped, ...column }: Holding): LimitedColumn => column;
  const holding = (stateId: StateId, side: "leaves" | "enters") =>
    [...columns, ...states]
      .filter((c) => c.stateIds.includes(stateId) && c.scoped[side])
      .map(plain);
  return { left: holding(move.before.stateId, "leaves"), entered: holding(move.to, "enters") };
}

/** Whether the item is in a board's scope where it leaves, and where it enters. */
interface Scoped {
  leaves: boolean;
  enters: boolean;
}
type Holding = LimitedColumn & { stateIds: string[]; scoped: Scoped };

const EVERYTHING: Scoped = { leaves: true, enters: true };

const lockOf = (reader: Reader, wanted: LimitedMove["wanted"]) =>
  reader
    .select({
      column: boardColumn,
      scope: board.scope,
      stateIds: sql<
        string[]
      >`(select array_agg(${columnState.stateId}) from ${columnState} where ${columnState.columnId} = ${boardColumn.id})`,
    })
    .from(boardColumn)
    .innerJoin(board, eq(board.id, boardColumn.boardId))
    .where(
      and(
        or(
          boardColumn.maxFirm,
          boardColumn.minFirm,
          wanted === "all" ? isNotNull(boardColumn.max) : undefined,
        ),
        inArray(
          boardColumn.id,
          reader
            .select({ id: columnState.columnId })
            .from(columnState)
            .where(
              sql`${columnState.stateId} in (${sql.placeholder("from")}, ${sql.placeholder("to")})`,
            ),
        ),
      ),
    )
    .orderBy(boardColumn.id)
    .for("update", { of: boardColumn });

const lockNamed = {
  firm: namedQuery("lock the firm limits of a move", (reader) => lockOf(reader, "firm")),
  all: namedQuery("lock all limits of a move", (reader) => lockOf(reader, "all")),
};

async function lockColumns(tx: Transaction, move: LimitedMove): Promise<Holding[]> {
  const states = { from: move.before.stateId, to: move.to };
  const locked = await lockNamed[move.wanted](tx, states);
  const holdings: Holding[] = [];
  for (const boardId of new Set(locked.map((l) => l.column.boardId))) {
    const here = locked.filter((l) => l.column.boardId === boardId);
    const { scope } = here[0];
    const counts = await columnCounts(
      tx,
      move.project,
      { id: boardId, scope },
      here.map((l) => l.column.id),
      move.now,
    );
    const scoped =
      scope === null
        ? EVERYTHING
        : await scopedMove(tx, move, (asked, asker) => holds(scope, asked, asker));
    for (const { column, stateIds: covers } of here) {
      const { id, min, max, minFirm, maxFirm, stage, name } = column;
      holdings.push({
        id,
        name: columnWords({ stage, name }),
        min,
        max,
        minFirm,
        maxFirm,
        count: counts.get(id) ?? 0,
        stateIds: covers,
        scoped,
      });
    }
  }
  return holdings;
}

async function scopedMove(
  tx: Transaction,
  { project, workflow, before, to, now }: LimitedMove,
  isIn: (asked: AskedItem, asker: Asker) => boolean,
): Promise<Scoped> {
  const asker = await projectAsker(tx, project, now);
  const asked = await askedItem(tx, before, asker.ownFields);
  const after = {
    ...before,
    stateId: to,
    stateKind: stateOf(workflow, to).kind,
    enteredStateAt: now,
  };
  return {
    leaves: isIn(asked, asker),
    enters: isIn({ ...asked, item: after, everIn: [...asked.everIn, to] }, asker),
  };
}

async function lockStates(
  tx: Transaction,
  { workflow, before, to, wanted }: LimitedMove,
): Promise<Holding[]> {
  const limited = workflow.states.filter(
    (s) => [before.stateId, to].includes(s.id) && s.limit && (s.limit.firm || wanted === "all"),
  );
  if (limited.length === 0) return [];
  const ids = limited.map((s) => s.id);
  await tx
    .select({ id: state.id })
    .from(state)
    .where(inArray(state.id, ids))
    .orderBy(state.id)
    .for("no key update");
  const counts = await tx
    .select({ id: item.stateId, count: sql<number>`count(*)::int` })
    .from(item)
    .where(and(inArray(item.stateId, ids), isNull(item.withdrawnAt)))
    .groupBy(item.stateId);
  const countOf = new Map(counts.map((c) => [c.id, c.count]));
  return limited.map(({ id, name, limit }) => ({
    id: `state ${id}`,
    name,
    min: null,
    max: limit!.max,
    minFirm: false,
    maxFirm: limit!.firm,
    count: countOf.get(id) ?? 0,
    stateIds: [id],
    scoped: EVERYTHING,
  }));
}
