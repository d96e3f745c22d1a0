import { and, eq, inArray, isNotNull, isNull, or, sql } from "drizzle-orm";
import type { LimitedColumn } from "@/core/board/limit";
import { columnWords } from "@/core/board/column";
import { holds, type Asker } from "@/core/condition/evaluate";
import type { AskedItem } from "@/core/condition/facts";
import type { ItemSnapshot } from "@/core/item/fields";
import { stateOf, type Workflow } from "@/core/workflow/workflow";
import type { StateId } from "@/core/workflow/state";
import type { Reader, Transaction } from "@/db/connection";
import { board, boardColumn, columnState, wipLimit } from "@/db/schema";
import { namedQuery } from "@/db/statement";
import { projectAsker } from "../condition/asker";
import { countInStates } from "../item/count";
import { askedItem } from "../condition/asked-items";
import { columnCounts } from "./column-counts";
import { limitOf } from "./limits";

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
  const locked = await lockNamed[move.wanted](tx, { from: move.before.stateId, to: move.to });
  const columns = await columnHoldings(tx, move, locked);
  const states = await stateHoldings(tx, move, locked);
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
      limit: wipLimit,
      column: boardColumn,
      scope: board.scope,
      stateIds: sql<
        string[] | null
      >`(select array_agg(${columnState.stateId}) from ${columnState} where ${columnState.columnId} = ${boardColumn.id})`,
    })
    .from(wipLimit)
    .leftJoin(
      boardColumn,
      and(eq(wipLimit.ownerKind, "column"), eq(boardColumn.id, wipLimit.ownerId)),
    )
    .leftJoin(board, eq(board.id, boardColumn.boardId))
    .where(
      and(
        isNull(wipLimit.validTo),
        or(
          wipLimit.maxFirm,
          wipLimit.minFirm,
          wanted === "all" ? isNotNull(wipLimit.max) : undefined,
        ),
        or(
          and(
            eq(wipLimit.ownerKind, "state"),
            sql`${wipLimit.ownerId} in (${sql.placeholder("from")}, ${sql.placeholder("to")})`,
          ),
          and(
            eq(wipLimit.ownerKind, "column"),
            inArray(
              wipLimit.ownerId,
              reader
                .select({ id: columnState.columnId })
                .from(columnState)
                .where(
                  sql`${columnState.stateId} in (${sql.placeholder("from")}, ${sql.placeholder("to")})`,
                ),
            ),
          ),
        ),
      ),
    )
    .orderBy(wipLimit.id)
    .for("update", { of: wipLimit });

const lockNamed = {
  firm: namedQuery("lock the firm limits of a move", (reader) => lockOf(reader, "firm")),
  all: namedQuery("lock all limits of a move", (reader) => lockOf(reader, "all")),
};

type LockedLimit = Awaited<ReturnType<typeof lockOf>>[number];

async function columnHoldings(
  tx: Transaction,
  move: LimitedMove,
  locked: readonly LockedLimit[],
): Promise<Holding[]> {
  const columns = locked.flatMap(({ column, ...rest }) => (column ? [{ ...rest, column }] : []));
  const holdings: Holding[] = [];
  for (const boardId of new Set(columns.map((l) => l.column.boardId))) {
    const here = columns.filter((l) => l.column.boardId === boardId);
    const { scope } = here[0];
    const counts = await columnCounts({
      reader: tx,
      project: move.project,
      board: { id: boardId, scope },
      columnIds: here.map((l) => l.column.id),
      now: move.now,
    });
    const scoped =
      scope === null
        ? EVERYTHING
        : await scopedMove(tx, move, (asked, asker) => holds(scope, asked, asker));
    for (const { limit, column, stateIds: covers } of here)
      holdings.push({
        ...limitOf(limit),
        id: column.id,
        name: columnWords(column),
        count: counts.get(column.id) ?? 0,
        stateIds: covers ?? [],
        scoped,
      });
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

async function stateHoldings(
  tx: Transaction,
  { workflow }: LimitedMove,
  locked: readonly LockedLimit[],
): Promise<Holding[]> {
  const limited = locked.map((l) => l.limit).filter((l) => l.ownerKind === "state");
  if (limited.length === 0) return [];
  const ids = limited.map((l) => l.ownerId);
  const countOf = await countInStates(tx, ids);
  return limited.map((limit) => ({
    ...limitOf(limit),
    id: `state ${limit.ownerId}`,
    name: stateOf(workflow, limit.ownerId).name,
    count: countOf.get(limit.ownerId) ?? 0,
    stateIds: [limit.ownerId],
    scoped: EVERYTHING,
  }));
}
