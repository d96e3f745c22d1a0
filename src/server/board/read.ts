import { NO_LIMIT } from "@/core/board/limit";
import { limitsInForce } from "./limits";
import { and, asc, eq, isNull, sql } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import { valueColumns, type ColumnsBy, type Places } from "@/core/board/columns-by";
import type { Condition } from "@/core/condition/condition";
import type { Column } from "@/core/board/column";
import { database, type Reader } from "@/db/connection";
import { board, boardColumn, boardPlace, columnState, domainEvent, item } from "@/db/schema";
import { loadOwnFields } from "../item/own-fields";
import { loadReleases, loadSprints } from "../plan/timeboxes";
import { withVisibleParents } from "../item/visible-parent";
import { enterProject, seesItem } from "../people/access";
import { roster } from "../people/roster";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { projectTypes } from "../workflow/load";
import { openCards, processCards, seenInScope } from "./cards";
import { hiddenCounts } from "./column-counts";
import type { BoardView } from "@/core/board/board-view";

/** A board with everything drawn on it; the project's first where none is named. */
export async function readBoard(
  viewer: Viewer,
  projectKey: string,
  boardId: string | null = null,
  now = Date.now(),
): Promise<BoardView> {
  const db = database();
  const access = await enterProject({
    reader: db,
    viewer,
    where: { key: projectKey },
    action: "read project",
  });
  const { project } = access;
  // The number is read first: whatever is announced after it is sent again, and a newer card wins.
  const lastEventId = await newestEventId(db, project.id);
  const [
    { board: head, columns: stored },
    boards,
    { types, workflows },
    { people, teams },
    sprints,
    releases,
    ownFields,
  ] = await Promise.all([
    loadBoard(db, project.id, boardId),
    loadBoards(db, project.id),
    projectTypes(db, project.id),
    roster(db, project.id),
    loadSprints(db, project.id),
    loadReleases(db, project.id),
    loadOwnFields(db, project.id),
  ]);
  const { columnsBy } = head;
  const scope = await seenInScope({ reader: db, viewer, project, board: head, now });
  const { cards: found, finishedRest } =
    columnsBy === "state"
      ? await processCards({ reader: db, project, columns: stored, workflows, scope, now })
      : { cards: await openCards(db, project, scope), finishedRest: [] };
  const cards = await withVisibleParents(db, viewer, found);
  const [places, parents, hidden] = await Promise.all([
    columnsBy === "free" ? loadPlaces(db, viewer, head.id) : {},
    columnsBy === "parent" ? loadParents(db, viewer, project) : [],
    columnsBy === "state" ? hiddenCounts({ reader: db, viewer, project, board: head, now }) : {},
  ]);
  return {
    project: { id: project.id, key: project.key, name: project.name, zone: project.zone },
    board: {
      id: head.id,
      name: head.name,
      version: head.version,
      columnsBy,
      scoped: head.scope !== null,
      places,
    },
    boards,
    columns:
      columnsBy === "state" || columnsBy === "free"
        ? stored
        : valueColumns(
            columnsBy,
            {
              people: people.filter((p) => p.role !== "observer"),
              teams,
              sprints,
              releases,
              parents,
            },
            cards,
          ),
    cards,
    finishedRest,
    hidden,
    seesAll: access.may("override limit"),
    workflows,
    types,
    people,
    teams,
    sprints,
    releases,
    ownFields: ownFields.filter((f) => f.removedAt === null),
    rights: {
      move: access.may("move item"),
      edit: access.may("edit item"),
      overrideLimits: access.may("override limit"),
      design: access.may("edit workflow"),
      intake: access.may("read intake"),
    },
    lastEventId,
    now,
  };
}

async function loadPlaces(reader: Reader, viewer: Viewer, boardId: string): Promise<Places> {
  const rows = await reader
    .select({ itemId: boardPlace.itemId, columnId: boardPlace.columnId, rank: boardPlace.rank })
    .from(boardPlace)
    .innerJoin(item, eq(item.id, boardPlace.itemId))
    .where(and(eq(boardPlace.boardId, boardId), seesItem(reader, viewer)))
    .orderBy(asc(boardPlace.rank));
  return Object.fromEntries(rows.map((r) => [r.itemId, { columnId: r.columnId, rank: r.rank }]));
}

/** Items that have others under them, or that could: those of a type above the pieces of work. */
async function loadParents(
  reader: Reader,
  viewer: Viewer,
  project: { id: string; key: string },
): Promise<{ id: string; name: string }[]> {
  const child = alias(item, "child");
  const rows = await reader
    .selectDistinct({ id: item.id, number: item.number, title: item.title })
    .from(item)
    .innerJoin(child, eq(child.parentId, item.id))
    .where(
      and(
        eq(item.projectId, project.id),
        isNull(item.withdrawnAt),
        isNull(child.withdrawnAt),
        seesItem(reader, viewer),
        seesItem(reader, viewer, child),
      ),
    )
    .orderBy(item.number);
  return rows.map((r) => ({ id: r.id, name: `${project.key}-${r.number} ${r.title}` }));
}

/** The boards of a project, in their order. */
export async function loadBoards(
  reader: Reader,
  projectId: string,
): Promise<
  { id: string; name: string; columnsBy: ColumnsBy; version: number; scope: Condition | null }[]
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

export async function newestEventId(reader: Reader, projectId: string): Promise<number> {
  const [{ last }] = await reader
    .select({ last: sql<number>`coalesce(max(${domainEvent.id}), 0)::int` })
    .from(domainEvent)
    .where(eq(domainEvent.projectId, projectId));
  return last;
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

export async function loadColumns(reader: Reader, boardId: string): Promise<Column[]> {
  const rows = await reader
    .select()
    .from(boardColumn)
    .where(eq(boardColumn.boardId, boardId))
    .orderBy(boardColumn.position);
  const states = await reader.select().from(columnState).where(eq(columnState.boardId, boardId));
  const limits = await limitsInForce(
    reader,
    "column",
    rows.map((c) => c.id),
  );
  return rows.map(({ boardId: _, ...column }) => ({
    ...column,
    ...(limits.get(column.id) ?? NO_LIMIT),
    stateIds: states.filter((s) => s.columnId === column.id).map((s) => s.stateId),
  }));
}
