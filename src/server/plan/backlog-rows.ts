import { and, eq, inArray, isNull, ne, notInArray, or, type SQL } from "drizzle-orm";
import { cardOf } from "@/core/board/card";
import { isoDate, dayNumber } from "@/core/calendar/zone";
import type { Instant } from "@/core/calendar/instant";
import type { Condition } from "@/core/condition/condition";
import type { CountedView } from "@/core/item/list/counted-values";
import { EVERY_ITEM } from "@/core/condition/condition";
import { countedOver } from "@/core/view/counted-look";
import { factsOfColumns, type BacklogColumn, type BacklogLook } from "@/core/plan/backlog-look";
import {
  backlogSections,
  sectionsIn,
  WHOLE,
  type BacklogSection,
} from "@/core/plan/backlog-sections";
import { BACKLOG_PAGE, type BacklogRows, type BacklogView } from "@/core/plan/backlog-view";
import { item } from "@/db/schema";
import { countWhere } from "../item/count";
import { aroundItems } from "../item/list/around";
import { readCounted } from "../item/list/counted";
import { enterList, knowing, narrowed, type EnteredList } from "../item/list/enter";
import { readCursor } from "../item/list/cursor";
import { BY_RANK } from "../item/list/key";
import { readParents } from "../item/list/parents";
import { readPage, readRows, readValues } from "../item/list/read";
import { snapshotOf } from "../item/rows";
import { withVisibleOthers } from "../item/visible-others";
import type { Viewer } from "../people/viewer";
import { invalid } from "../refused";
import { enterBacklog, readEnteredBacklog, waitingStates, type EnteredBacklog } from "./backlog";
import { loadSprints } from "./timeboxes";

/** That an item is like what somebody asks for, who sees it. */
export async function whatIsLike(
  viewer: Viewer,
  projectKey: string,
  filter: Condition,
  now: Instant,
): Promise<SQL | undefined> {
  return likeIn(await enterList(viewer, projectKey, now), filter);
}

const likeIn = async (list: EnteredList, filter: Condition): Promise<SQL | undefined> =>
  (await narrowed(list, filter, { board: null })).where;

/** The parts that a backlog is put together of. */
async function sectionsOf(
  entered: EnteredBacklog,
  order: BacklogLook["order"],
  now: Instant,
): Promise<BacklogSection[]> {
  const { reader, access, project, columns } = entered;
  const isBySprint = order === "by sprint" && access.project.usesSprints;
  return backlogSections(order, {
    column: columns[0] ?? null,
    waiting: waitingStates(entered),
    sprints: isBySprint ? await loadSprints(reader, project.id) : [],
    today: isoDate(dayNumber(now, project.zone)),
  });
}

/** What a part of a backlog holds, as far as somebody may see it. */
function held({ inBacklog, scope }: EnteredBacklog, { holds }: BacklogSection): SQL | undefined {
  const there = and(isNull(item.withdrawnAt), scope);
  switch (holds.kind) {
    case "all":
      return inBacklog;
    case "states":
      return and(inArray(item.stateId, [...holds.stateIds]), there);
    case "sprint":
      return and(eq(item.sprintId, holds.sprintId), ne(item.stateKind, "finished"), there);
    case "no sprint": {
      const others = notInArray(item.sprintId, [...holds.sprintIds]);
      const none = isNull(item.sprintId);
      return and(inBacklog, holds.sprintIds.length === 0 ? undefined : or(none, others));
    }
  }
}

/** What of a backlog is asked for, and how it is looked at. */
interface LookAsked {
  filter?: Condition;
  order?: BacklogLook["order"];
  columns?: readonly BacklogColumn[];
}

export interface RowsAsked extends LookAsked {
  /** The place where it goes on, whatever stands there by now; from the top without one. */
  after?: string;
  /** Which part of it; all that waits where none is named. */
  section?: string;
}

/** A backlog that somebody was let in at, with the parts it is put together of as they look at it. */
interface OpenBacklog {
  viewer: Viewer;
  entered: EnteredBacklog;
  sections: readonly BacklogSection[];
  columns: readonly BacklogColumn[];
  /** What its columns say is read of it; null where it says nothing. */
  list: EnteredList | null;
  /** That an item is like what is asked for. */
  like: SQL | undefined;
}

async function openBacklog(
  viewer: Viewer,
  entered: EnteredBacklog,
  { filter, order = "one list", columns = [] }: LookAsked,
  now: Instant,
): Promise<OpenBacklog> {
  const asksList = filter !== undefined || columns.length > 0;
  const [sections, list] = await Promise.all([
    sectionsOf(entered, order, now),
    asksList ? enterList(viewer, entered.project.key, now) : null,
  ]);
  const like = list && filter ? await likeIn(list, filter) : undefined;
  return { viewer, entered, sections, columns, list, like };
}

/** A page of one part of an open backlog. @throws Refused where there is no such part or place */
async function readPart(
  { viewer, entered, sections, columns, list, like }: OpenBacklog,
  id: string,
  after?: string,
): Promise<BacklogRows> {
  const { reader, ground, project } = entered;
  const part = sections.find((section) => section.id === id);
  if (!part) throw invalid("This part of the backlog is gone.", "Open the backlog again.");
  const from = after === undefined ? null : readCursor(after, BY_RANK.length);
  if (after !== undefined && from === null)
    throw invalid("The backlog does not go on there.", "Open it again from its beginning.");
  const of = { reader, where: and(held(entered, part), like) };
  const { rows, next } = await readPage(of, BY_RANK, { after: from, limit: BACKLOG_PAGE });
  const items = await readRows(reader, { ids: rows.map((row) => row.id as string) });
  const cards = items.map((row) => cardOf(snapshotOf(row), project.key));
  const ids = cards.map((card) => card.id);
  const [shown, around, told, count] = await Promise.all([
    withVisibleOthers(reader, viewer, cards),
    aroundItems(reader, viewer, ground, ids),
    list ? whatRowsSay(list, ids, columns) : SAYS_NOTHING,
    like || part !== WHOLE ? countWhere(reader, of.where) : null,
  ]);
  return { cards: shown, around, ...told, next, matching: count };
}

/**
 * A page of a backlog's rows, best first.
 * @throws Refused where that is no place of a backlog, or no part of it
 */
export async function readBacklogRows(
  viewer: Viewer,
  projectKey: string,
  { after, section = WHOLE.id, ...look }: RowsAsked = {},
  now = Date.now(),
): Promise<BacklogRows> {
  const entered = await enterBacklog(viewer, projectKey, now);
  return readPart(await openBacklog(viewer, entered, look, now), section, after);
}

/** The first rows of all that waits, where nothing is asked about how it is looked at. */
export const readFirstWaiting = (viewer: Viewer, entered: EnteredBacklog): Promise<BacklogRows> =>
  readPart(
    { viewer, entered, sections: [WHOLE], columns: [], list: null, like: undefined },
    WHOLE.id,
  );

/** A backlog with the first rows of each of its parts, as somebody looks at it. @throws Refused */
export async function readWholeBacklog(
  viewer: Viewer,
  projectKey: string,
  filter?: Condition,
  now = Date.now(),
): Promise<{ backlog: BacklogView; rows: Record<string, BacklogRows> }> {
  const entered = await enterBacklog(viewer, projectKey, now);
  const backlog = await readEnteredBacklog(viewer, entered, now);
  const { order, columns } = backlog.look;
  const open = await openBacklog(viewer, entered, { filter, order, columns }, now);
  const rows = await Promise.all(
    sectionsIn(backlog, order).map(async ({ id }) => [id, await readPart(open, id)] as const),
  );
  return { backlog, rows: Object.fromEntries(rows) };
}

const SAYS_NOTHING: Pick<BacklogRows, "values" | "parents"> = { values: {}, parents: {} };

/** What the columns of some rows say. */
async function whatRowsSay(
  entered: EnteredList,
  ids: readonly string[],
  columns: readonly BacklogColumn[],
): Promise<Pick<BacklogRows, "values" | "parents">> {
  if (columns.length === 0) return SAYS_NOTHING;
  const facts = factsOfColumns(columns);
  const listed = { ...entered.seen, where: inArray(item.id, [...ids]) };
  const [values, parents] = await Promise.all([
    knowing(entered, facts).then((of) => readValues(of, ids, facts)),
    columns.includes("parent") ? readParents(listed, entered.viewer, entered.ground) : null,
  ]);
  return {
    values: Object.fromEntries(
      [...values].map(([id, said]) => [
        id,
        columns.map((column) => (column === "parent" ? null : said[facts.indexOf(column)])),
      ]),
    ),
    parents: Object.fromEntries(parents ?? []),
  };
}

/**
 * The values of some fields with how many items of a backlog have each: of all its parts together,
 * so that they agree with what it shows.
 */
export async function countBacklog(
  viewer: Viewer,
  projectKey: string,
  { filter = EVERY_ITEM, order, counts }: { filter?: Condition } & Omit<BacklogLook, "columns">,
  now = Date.now(),
): Promise<CountedView> {
  const entered = await enterBacklog(viewer, projectKey, now);
  const sections = await sectionsOf(entered, order, now);
  const within = or(...sections.map((section) => held(entered, section)));
  const look = { scope: EVERY_ITEM, filter };
  const asked = {
    board: null,
    standing: false,
    condition: filter,
    fields: counts.map((fact) => countedOver(look, fact)),
    named: [],
    sum: "estimate" as const,
  };
  return readCounted(viewer, projectKey, asked, { within, now });
}
