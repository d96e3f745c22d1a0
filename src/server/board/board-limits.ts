import { and, eq, sql, type SQL } from "drizzle-orm";
import type { CountedLimit } from "@/core/board/board-limits";
import type { Column } from "@/core/board/column";
import type { Instant } from "@/core/calendar/instant";
import type { Condition } from "@/core/condition/condition";
import type { StateId } from "@/core/workflow/state";
import type { Reader } from "@/db/connection";
import { board, boardColumn, columnState, item } from "@/db/schema";
import { projectAsker } from "../condition/asker";
import { compileCondition } from "../condition/compile";
import { seesItem } from "../people/access";
import type { Viewer } from "../people/viewer";
import { countedItems, countLimits, heldBy } from "./count-limits";
import { limitsOfProject, type LoadedLimit } from "./covering-limits";

interface Zoned {
  id: string;
  zone: string;
  defaultSize: number;
}

interface Asked {
  reader: Reader;
  project: Zoned;
  now: Instant;
}

const withoutScope = ({ scope: _, ...limit }: LoadedLimit) => limit;

/** What a board counts beside the cards that somebody sees on it. */
export interface BesideBoard {
  /** Its limits and those of the people of its project, with what counts against each. */
  limits: CountedLimit[];
  /** Items in progress of its scope that they may not see, by state. */
  hidden: Record<StateId, number>;
}

/** Where boards have no limits of their own. */
export const NOTHING_BESIDE: BesideBoard = { limits: [], hidden: {} };

/**
 * What counts on a board beside the cards that somebody sees on it.
 * @param scope which items of the project they see on it; all where it is left out
 */
export async function readBesideBoard(
  of: Asked & {
    viewer: Viewer;
    board: { id: string; columnsBy: string; scope: Condition | null };
    columns: readonly Column[];
    scope: SQL | undefined;
  },
): Promise<BesideBoard> {
  const { reader, viewer, project, board: head } = of;
  const byProcess = head.columnsBy === "state";
  const states = of.columns.flatMap((column) => column.stateIds);
  const all = await limitsOfProject(reader, states, project.id);
  const limits = all.filter(({ boardId }) => boardId === null || boardId === head.id);
  const people = limits.flatMap((l) => (l.ownerKind === "person" ? [l.ownerId] : []));
  const shown = byProcess
    ? and(of.scope, sql`${item.stateId} = any(${sql.param(states)}::text[])`)
    : and(of.scope, eq(item.projectId, project.id), sql`${item.stateKind} <> 'finished'`);
  const open = of.columns.flatMap(({ part, stateIds }) => (part === "finished" ? [] : stateIds));
  const rows = await countedItems(
    reader,
    { states: open, people, only: sql`not coalesce(${shown}, false)` },
    { seen: seesItem(reader, viewer), inScope: await scopeOf(of) },
  );
  const hidden: Record<StateId, number> = {};
  for (const { seen, inScope, projectId, stateId, stateKind } of byProcess ? rows : [])
    if (!seen && inScope && projectId === project.id && stateKind !== "finished")
      hidden[stateId] = (hidden[stateId] ?? 0) + 1;
  const beside = limits.map((limit) =>
    heldBy(limit, limit.scope === null ? rows : rows.filter((row) => row.inScope)),
  );
  return { limits: beside, hidden };
}

/** The items that a board counts, as the project asks for them. */
const scopeOf = async ({
  reader,
  project,
  board: { scope },
  now,
}: Asked & { board: { scope: Condition | null } }): Promise<SQL | undefined> =>
  scope === null ? undefined : compileCondition(scope, await projectAsker(reader, project, now));

/** Every limit of a project's boards, states and people, with all that counts against each. */
export async function projectLimits({ reader, project, now }: Asked): Promise<CountedLimit[]> {
  const covered = await reader
    .selectDistinct({ stateId: columnState.stateId })
    .from(columnState)
    .innerJoin(boardColumn, eq(boardColumn.id, columnState.columnId))
    .innerJoin(board, eq(board.id, boardColumn.boardId))
    .where(eq(board.projectId, project.id));
  const states = covered.map((row) => row.stateId);
  const limits = await limitsOfProject(reader, states, project.id);
  const counts = await countLimits({ reader, project, limits, now });
  return limits.map((limit) => ({
    ...withoutScope(limit),
    ...(counts.get(limit.id) ?? { count: 0, unsized: 0 }),
  }));
}
