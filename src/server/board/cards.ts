import { and, asc, desc, eq, gte, inArray, isNull, ne, or, sql, type SQL } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import { cardOf, type Card } from "@/core/board/card";
import type { Column } from "@/core/board/column";
import type { Places } from "@/core/board/columns-by";
import {
  FINISHED_CARDS_SENT,
  FINISHED_DAYS_SHOWN,
  restOf,
  type FinishedRest,
} from "@/core/board/finished";
import { followedWorkflows, uncoveredStates } from "@/core/board/followed";
import { DAY, type Instant } from "@/core/calendar/instant";
import type { Condition } from "@/core/condition/condition";
import type { ItemType } from "@/core/item/item-type";
import type { StateId } from "@/core/workflow/state";
import type { Workflow } from "@/core/workflow/workflow";
import type { Reader } from "@/db/connection";
import { boardPlace, item } from "@/db/schema";
import { viewerAsker } from "../condition/asker";
import { compileCondition } from "../condition/compile";
import { snapshotOf } from "../item/rows";
import { seesItem } from "../people/access";
import type { Viewer } from "../people/viewer";

interface BoardProject {
  id: string;
  key: string;
  zone: string;
}

/** What a person may see of what a board is about, as a condition on items. */
export async function seenInScope({
  reader,
  viewer,
  project,
  board,
  now,
}: {
  reader: Reader;
  viewer: Viewer;
  project: BoardProject;
  board: { scope: Condition | null };
  now: Instant;
}): Promise<SQL | undefined> {
  const seen = seesItem(reader, viewer);
  if (board.scope === null) return seen;
  const asker = await viewerAsker(reader, viewer, project, now);
  return and(seen, compileCondition(board.scope, asker));
}

interface OfProcess {
  reader: Reader;
  project: BoardProject;
  columns: readonly Column[];
  workflows: readonly Workflow[];
  shownElsewhere: readonly StateId[];
  types: readonly ItemType[];
  scope: SQL | undefined;
  now: Instant;
}

/**
 * The states a board of the process draws: its columns', the backlogs before them, and those in
 * between that no column shows.
 */
function drawnStates(of: OfProcess): StateId[] {
  const shown = of.columns.flatMap((c) => c.stateIds);
  const backlogs = followedWorkflows(of).flatMap((w) =>
    w.states.filter((s) => s.kind === "unstarted"),
  );
  const others = [...backlogs, ...uncoveredStates(of)].map((s) => s.id);
  return [...new Set([...shown, ...others])];
}

/** What stands on a board of the process and has finished lately. */
const finishedIn = (of: OfProcess): SQL | undefined =>
  and(
    inArray(item.stateId, drawnStates(of)),
    eq(item.stateKind, "finished"),
    isNull(item.withdrawnAt),
    gte(item.enteredStateAt, of.now - FINISHED_DAYS_SHOWN * DAY),
    of.scope,
  );

const openIn = (of: OfProcess): SQL | undefined =>
  and(
    inArray(item.stateId, drawnStates(of)),
    ne(item.stateKind, "finished"),
    isNull(item.withdrawnAt),
    of.scope,
  );

/**
 * The cards of a board of the process: what is open, and of what has finished the latest, or all of
 * it.
 */
export async function processCards(
  of: OfProcess,
  finishedToo: "latest" | "all",
): Promise<{ cards: Card[]; finishedRest: FinishedRest[] }> {
  const { reader, project, now } = of;
  if (finishedToo === "all") {
    const all = or(openIn(of), finishedIn(of));
    return { cards: await cardsWhere(reader, project, all), finishedRest: [] };
  }
  const finished = await reader
    .select({
      id: item.id,
      stateId: item.stateId,
      stateKind: item.stateKind,
      classOfService: item.classOfService,
      clock: item.clock,
      deliveredAt: item.deliveredAt,
      finishedAt: item.finishedAt,
    })
    .from(item)
    .where(finishedIn(of))
    .orderBy(desc(item.enteredStateAt), asc(item.id));
  const sent = new Map<StateId, string[]>();
  const rest = finished.filter(({ id, stateId }) => {
    const ids = sent.get(stateId) ?? [];
    if (ids.length === FINISHED_CARDS_SENT) return true;
    sent.set(stateId, [...ids, id]);
    return false;
  });
  const latest = inArray(item.id, [...sent.values()].flat());
  return {
    cards: await cardsWhere(reader, project, or(openIn(of), latest)),
    finishedRest: restOf(rest, project.zone, now),
  };
}

/** The cards of everything that has finished lately and stands on a board of the process. */
export const finishedCards = (of: OfProcess): Promise<Card[]> =>
  cardsWhere(of.reader, of.project, finishedIn(of));

/** The cards of everything in a project that is not finished. */
export const openCards = (
  reader: Reader,
  project: BoardProject,
  scope: SQL | undefined,
): Promise<Card[]> =>
  cardsWhere(
    reader,
    project,
    and(
      eq(item.projectId, project.id),
      isNull(item.withdrawnAt),
      ne(item.stateKind, "finished"),
      scope,
    ),
  );

/** The cards of items of a project, best first. */
export async function cardsWhere(
  reader: Reader,
  project: { key: string },
  where: SQL | undefined,
  most?: number,
): Promise<Card[]> {
  const ranked = reader.select().from(item).where(where).orderBy(asc(item.rank), asc(item.number));
  const rows = await (most === undefined ? ranked : ranked.limit(most));
  return rows.map((row) => cardOf(snapshotOf(row), project.key));
}

/** What is ranked behind an item; nothing where a person may not see that one. */
export const behindItem = (reader: Reader, viewer: Viewer, id: string): SQL =>
  sql`(${item.rank}, ${item.number}) > (${reader
    .select({ rank: item.rank, number: item.number })
    .from(item)
    .where(and(eq(item.id, id), seesItem(reader, viewer)))})`;

/** Where the items that a person sees were put on a board whose columns are free. */
export async function loadPlaces(reader: Reader, viewer: Viewer, boardId: string): Promise<Places> {
  const rows = await reader
    .select({ itemId: boardPlace.itemId, columnId: boardPlace.columnId, rank: boardPlace.rank })
    .from(boardPlace)
    .innerJoin(item, eq(item.id, boardPlace.itemId))
    .where(and(eq(boardPlace.boardId, boardId), seesItem(reader, viewer)))
    .orderBy(asc(boardPlace.rank));
  return Object.fromEntries(rows.map((r) => [r.itemId, { columnId: r.columnId, rank: r.rank }]));
}

/** Items that have others under them, or that could: those of a type above the pieces of work. */
export async function loadParents(
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
