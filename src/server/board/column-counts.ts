import { and, eq, isNull, ne, sql, type SQL } from "drizzle-orm";
import type { Column } from "@/core/board/column";
import type { ColumnsBy } from "@/core/board/columns-by";
import { isLimited } from "@/core/board/limit";
import type { Instant } from "@/core/calendar/instant";
import type { Condition } from "@/core/condition/condition";
import type { StateId } from "@/core/workflow/state";
import type { Reader } from "@/db/connection";
import { columnState, item } from "@/db/schema";
import { namedQuery } from "@/db/statement";
import { projectAsker } from "../condition/asker";
import { compileCondition } from "../condition/compile";
import { hiddenFrom } from "../people/access";
import type { Viewer } from "../people/viewer";

interface CountedBoard {
  id: string;
  scope: Condition | null;
}
interface Zoned {
  id: string;
  zone: string;
}

const inScope = async (reader: Reader, project: Zoned, board: CountedBoard, now: Instant) =>
  board.scope === null
    ? undefined
    : compileCondition(board.scope, await projectAsker(reader, project, now));

/**
 * How many items columns of a board hold, by the board's scope: a fact of the project, the same for
 * everybody.
 */
export async function columnCounts({
  reader,
  project,
  board,
  columnIds,
  now,
}: {
  reader: Reader;
  project: Zoned;
  board: CountedBoard;
  columnIds: readonly string[];
  now: Instant;
}): Promise<ReadonlyMap<string, number>> {
  if (columnIds.length === 0) return new Map();
  const scope = await inScope(reader, project, board, now);
  const values = { boardId: board.id, columnIds: [...columnIds] };
  const rows = scope
    ? await countsOf(reader, board.id, columnIds, scope)
    : await countAll(reader, values);
  return new Map(rows.map((r) => [r.columnId, r.count]));
}

const countsOf = (reader: Reader, boardId: string, columnIds: readonly string[], scope?: SQL) =>
  reader
    .select({ columnId: columnState.columnId, count: sql<number>`count(*)::int` })
    .from(item)
    .innerJoin(columnState, eq(columnState.stateId, item.stateId))
    .where(
      and(
        eq(columnState.boardId, boardId),
        sql`${columnState.columnId} = any(${sql.param(columnIds)}::text[])`,
        isNull(item.withdrawnAt),
        scope,
      ),
    )
    .groupBy(columnState.columnId);

/** Of a board that shows everything: one statement, whatever its columns. */
const countAll = namedQuery("count the items of columns", (reader) =>
  countsOf(
    reader,
    sql.placeholder("boardId") as unknown as string,
    sql.placeholder("columnIds") as unknown as string[],
  ),
);

/**
 * What counts against the limits that columns show: a state's limit counts all that is in the
 * state, whichever of it the board shows; a column's own limit counts by the board's scope.
 */
export async function limitCounts({
  columns,
  ...of
}: {
  reader: Reader;
  project: Zoned;
  board: CountedBoard;
  columns: readonly Column[];
  now: Instant;
}): Promise<ReadonlyMap<string, number>> {
  const bySeveral = columns.filter((c) => c.stateIds.length !== 1).map((c) => c.id);
  const byOne = columns.filter((c) => c.stateIds.length === 1).map((c) => c.id);
  const everything = { ...of.board, scope: null };
  const counts = await Promise.all([
    columnCounts({ ...of, columnIds: bySeveral }),
    columnCounts({ ...of, board: everything, columnIds: byOne }),
  ]);
  return new Map(counts.flatMap((c) => [...c]));
}

/** What a board counts beside what it shows to somebody; only boards of the process count. */
export async function countedBeside(
  of: { reader: Reader; project: Zoned; columns: readonly Column[] } & {
    board: CountedBoard & { columnsBy: ColumnsBy };
  },
  { viewer, now }: { viewer: Viewer; now: Instant },
): Promise<{ hidden: Record<StateId, number>; beyondScope: Record<string, number> }> {
  if (of.board.columnsBy !== "state") return { hidden: {}, beyondScope: {} };
  const [hidden, beyond] = await Promise.all([
    hiddenCounts({ ...of, viewer, now }),
    beyondScope({ ...of, now }),
  ]);
  return { hidden, beyondScope: beyond };
}

/** How much more a limit counts than its column shows on a board that shows only some items. */
async function beyondScope(of: Parameters<typeof limitCounts>[0]): Promise<Record<string, number>> {
  if (of.board.scope === null) return {};
  const columns = of.columns.filter(isLimited);
  const [limited, shown] = await Promise.all([
    limitCounts({ ...of, columns }),
    columnCounts({ ...of, columnIds: columns.map((c) => c.id) }),
  ]);
  const beyond = columns.map(({ id }) => [id, (limited.get(id) ?? 0) - (shown.get(id) ?? 0)]);
  return Object.fromEntries(beyond.filter(([, items]) => items !== 0));
}

/** Of the items in progress that a board counts, how many in each state a person may not see. */
async function hiddenCounts({
  reader,
  viewer,
  project,
  board,
  now,
}: {
  reader: Reader;
  viewer: Viewer;
  project: Zoned;
  board: CountedBoard;
  now: Instant;
}): Promise<Record<StateId, number>> {
  if (viewer.administrator) return {};
  const rows = await reader
    .select({ stateId: item.stateId, count: sql<number>`count(*)::int` })
    .from(item)
    .where(
      and(
        eq(item.projectId, project.id),
        isNull(item.withdrawnAt),
        ne(item.stateKind, "finished"),
        hiddenFrom(reader, viewer),
        await inScope(reader, project, board, now),
      ),
    )
    .groupBy(item.stateId);
  return Object.fromEntries(rows.map((r) => [r.stateId, r.count]));
}
