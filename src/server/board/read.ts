import type { OwnField } from "@/core/item/own-field";
import type { Release, Sprint } from "@/core/plan/sprint";
import type { ItemType } from "@/core/item/item-type";
import { and, asc, eq, gte, inArray, isNull, or, sql } from "drizzle-orm";
import { cardOf, type Card } from "@/core/board/card";
import type { Column } from "@/core/board/column";
import { DAY } from "@/core/calendar/instant";
import type { Workflow } from "@/core/workflow/workflow";
import { database, type Reader } from "@/db/connection";
import { board, boardColumn, columnState, item, outbox } from "@/db/schema";
import { loadOwnFields } from "../item/own-fields";
import { loadReleases, loadSprints } from "../plan/boxes";
import { snapshotOf } from "../item/rows";
import { enterProject } from "../people/access";
import { roster, type RosterPerson } from "../people/roster";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { projectTypes } from "../workflow/load";

/** How long a finished item stays on the board. */
export const FINISHED_DAYS_SHOWN = 14;

export interface BoardView {
  project: { id: string; key: string; name: string; zone: string };
  board: { id: string; name: string; version: number };
  columns: Column[];
  cards: Card[];
  workflows: Workflow[];
  types: ItemType[];
  people: RosterPerson[];
  teams: { id: string; name: string }[];
  sprints: Sprint[];
  releases: Release[];
  ownFields: OwnField[];
  /** What this person may do here. */
  rights: { move: boolean; edit: boolean; overrideLimits: boolean; design: boolean; intake: boolean };
  /** Number of the last announced change that is in this view; a stream goes on from here. */
  lastEventId: number;
  now: number;
}

/** A project's first board with everything drawn on it. */
export async function readBoard(viewer: Viewer, projectKey: string, now = Date.now()): Promise<BoardView> {
  const db = database();
  const access = await enterProject(db, viewer, { key: projectKey }, "read project");
  const { project } = access;
  // The number is read first: whatever is announced after it is sent again, and a newer card wins.
  const lastEventId = await lastOutboxId(db, project.id);
  const [{ board: head, columns }, { types, workflows }, { people, teams }, sprints, releases, ownFields] = await Promise.all([
    loadBoard(db, project.id),
    projectTypes(db, project.id),
    roster(db, project.id),
    loadSprints(db, project.id),
    loadReleases(db, project.id),
    loadOwnFields(db, project.id),
  ]);
  const shown = columns.flatMap((c) => c.stateIds);
  const boardWorkflows = workflows.filter((w) => w.states.some((s) => shown.includes(s.id)));
  const backlog = boardWorkflows.flatMap((w) => w.states.filter((s) => s.kind === "unstarted").map((s) => s.id));
  const cards = await boardCards(db, project.key, [...shown, ...backlog], now - FINISHED_DAYS_SHOWN * DAY);
  return {
    project: { id: project.id, key: project.key, name: project.name, zone: project.zone },
    board: { id: head.id, name: head.name, version: head.version },
    columns,
    cards,
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

export async function lastOutboxId(reader: Reader, projectId: string): Promise<number> {
  const [{ last }] = await reader.select({ last: sql<number>`coalesce(max(${outbox.id}), 0)::int` }).from(outbox).where(eq(outbox.projectId, projectId));
  return last;
}

/** A project's first board and its columns in order. @throws Refused when it has none */
export async function loadBoard(reader: Reader, projectId: string): Promise<{ board: typeof board.$inferSelect; columns: Column[] }> {
  const [head] = await reader.select().from(board).where(eq(board.projectId, projectId)).orderBy(board.id).limit(1);
  if (!head) throw notFound("board");
  const [rows, states] = await Promise.all([
    reader.select().from(boardColumn).where(eq(boardColumn.boardId, head.id)).orderBy(boardColumn.position),
    reader.select().from(columnState).where(eq(columnState.boardId, head.id)),
  ]);
  const columns = rows.map(({ boardId: _, ...column }) => ({
    ...column,
    stateIds: states.filter((s) => s.columnId === column.id).map((s) => s.stateId),
  }));
  return { board: head, columns };
}

/** The cards in some states; finished ones only when they entered their state since a given instant. */
export async function boardCards(reader: Reader, projectKey: string, stateIds: string[], finishedSince: number): Promise<Card[]> {
  if (stateIds.length === 0) return [];
  const rows = await reader
    .select()
    .from(item)
    .where(
      and(
        inArray(item.stateId, stateIds),
        isNull(item.withdrawnAt),
        or(sql`${item.stateKind} <> 'finished'`, gte(item.enteredStateAt, finishedSince)),
      ),
    )
    .orderBy(asc(item.rank), asc(item.number));
  return rows.map((row) => cardOf(snapshotOf(row), projectKey));
}
