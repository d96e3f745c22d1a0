import { and, eq, sql, type SQL } from "drizzle-orm";
import type { CountedLimit } from "@/core/board/board-limits";
import type { Column } from "@/core/board/column";
import type { Instant } from "@/core/calendar/instant";
import type { Reader } from "@/db/connection";
import { board, boardColumn, columnState, item, membership } from "@/db/schema";
import { countLimits } from "./count-limits";
import { limitsTouching, type LoadedLimit } from "./covering-limits";

interface Zoned {
  id: string;
  zone: string;
}

interface Asked {
  reader: Reader;
  project: Zoned;
  now: Instant;
}

/** Limits with what counts against each. @param only which items are counted */
async function counted(
  { reader, project, now }: Asked,
  limits: readonly LoadedLimit[],
  only?: SQL,
): Promise<CountedLimit[]> {
  const counts = await countLimits({ reader, project, limits, now, only });
  return limits.map(({ scope: _, ...limit }) => ({
    ...limit,
    ...(counts.get(limit.id) ?? { count: 0, unsized: 0 }),
  }));
}

const memberIds = async (reader: Reader, projectId: string): Promise<string[]> => {
  const rows = await reader
    .select({ id: membership.personId })
    .from(membership)
    .where(eq(membership.projectId, projectId));
  return rows.map((row) => row.id);
};

/**
 * The limits that a board shows, and those of the people of its project, with what counts against
 * each beside the items that somebody sees on it.
 * @param seen which items of the board's scope they see; all where it is left out
 */
export async function boardLimits(
  of: Asked & { board: { id: string; columnsBy: string }; columns: readonly Column[] },
  seen: SQL | undefined,
): Promise<CountedLimit[]> {
  const states = of.columns.flatMap((column) => column.stateIds);
  const people = await memberIds(of.reader, of.project.id);
  const touching = await limitsTouching(of.reader, states, people);
  const here = touching.filter(({ boardId }) => boardId === null || boardId === of.board.id);
  const drawn =
    of.board.columnsBy === "state"
      ? and(seen, sql`${item.stateId} = any(${sql.param(states)}::text[])`)
      : and(seen, sql`${item.stateKind} <> 'finished'`);
  return counted(of, here, sql`not coalesce(${drawn}, false)`);
}

/** Every limit of a project's boards, states and people, with all that counts against each. */
export async function projectLimits(of: Asked): Promise<CountedLimit[]> {
  const { reader, project } = of;
  const covered = await reader
    .selectDistinct({ stateId: columnState.stateId })
    .from(columnState)
    .innerJoin(boardColumn, eq(boardColumn.id, columnState.columnId))
    .innerJoin(board, eq(board.id, boardColumn.boardId))
    .where(eq(board.projectId, project.id));
  const people = await memberIds(reader, project.id);
  const states = covered.map((row) => row.stateId);
  return counted(of, await limitsTouching(reader, states, people));
}
