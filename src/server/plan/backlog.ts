import { and, inArray, isNull, type SQL } from "drizzle-orm";
import { cardOf } from "@/core/board/card";
import { astrayOf, type Astray } from "@/core/board/astray";
import { followedWorkflows, uncoveredStates } from "@/core/board/followed";
import { BACKLOG_PAGE, type BacklogRows, type BacklogView } from "@/core/plan/backlog-view";
import { item } from "@/db/schema";
import { limitOfColumn } from "@/core/board/board-limits";
import type { Condition } from "@/core/condition/condition";
import type { Instant } from "@/core/calendar/instant";
import { projectLimits } from "../board/board-limits";
import { enterBoard, type EnteredBoard } from "../board/enter";
import { loadVocabulary } from "../condition/vocabulary";
import { countWhere } from "../item/count";
import { aroundItems } from "../item/list/around";
import { enterList, narrowed } from "../item/list/enter";
import { readCursor } from "../item/list/cursor";
import { BY_RANK } from "../item/list/key";
import { readPage, readRows } from "../item/list/read";
import { loadOwnFields } from "../item/own-fields";
import { snapshotOf } from "../item/rows";
import { withVisibleOthers } from "../item/visible-others";
import { roster } from "../people/roster";
import type { Viewer } from "../people/viewer";
import { invalid } from "../refused";
import { planSettingsOf } from "./settings";
import { timeboxTotals } from "./timebox-totals";
import { loadReleases, loadSprints } from "./timeboxes";

/** The states in which items of a board wait to be begun. */
export const unstartedStates = (entered: EnteredBoard): string[] =>
  followedWorkflows(entered)
    .flatMap((of) => of.states)
    .filter(({ kind }) => kind === "unstarted")
    .map(({ id }) => id);

/**
 * The backlog of a project for somebody: what waits before the process that its first board shows.
 */
async function enterBacklog(viewer: Viewer, projectKey: string, now: Instant) {
  const entered = await enterBoard(projectKey, { viewer, boardId: null, now });
  const inBacklog = and(
    inArray(item.stateId, unstartedStates(entered)),
    isNull(item.withdrawnAt),
    entered.scope,
  );
  return { ...entered, inBacklog };
}

/** Everything about a backlog but its rows. */
export async function readBacklog(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<BacklogView> {
  const entered = await enterBacklog(viewer, projectKey, now);
  const { reader, access, project, types, workflows, inBacklog } = entered;
  const [total, astray, into, totals, { people }, sprints, releases, ownFields, vocabulary] =
    await Promise.all([
      countWhere(reader, inBacklog),
      readAstray(entered),
      pulledInto(entered, now),
      timeboxTotals(reader, viewer, project.id),
      roster(reader, project.id),
      access.project.usesSprints ? loadSprints(reader, project.id) : [],
      loadReleases(reader, project.id),
      loadOwnFields(reader, project.id),
      loadVocabulary(reader, project.id),
    ]);
  return {
    project: { id: project.id, key: project.key, name: project.name, zone: project.zone },
    total,
    astray,
    pulledInto: into,
    columns: entered.columns.map((column) => column.stateIds),
    totals,
    workflows,
    types,
    people,
    sprints,
    releases,
    settings: planSettingsOf(access.project),
    ownFields: ownFields.filter((f) => f.removedAt === null),
    vocabulary,
    rights: {
      move: access.may("move item"),
      edit: access.may("edit item"),
      design: access.may("edit workflow"),
    },
    now,
  };
}

/** The first column of the board, with what counts against its limit, or all that it holds. */
async function pulledInto(
  { reader, project, columns: [column] }: EnteredBoard,
  now: Instant,
): Promise<BacklogView["pulledInto"]> {
  if (!column) return null;
  const limit = limitOfColumn(await projectLimits({ reader, project, now }), column);
  const held = and(inArray(item.stateId, column.stateIds), isNull(item.withdrawnAt));
  return { column, limit, holds: limit?.count ?? (await countWhere(reader, held)) };
}

/** What has left the backlog and is in no column of the board: nobody may lose sight of it. */
async function readAstray(entered: EnteredBoard): Promise<Astray> {
  const states = uncoveredStates(entered).map((s) => s.id);
  if (states.length === 0) return astrayOf(entered, []);
  const items = await entered.reader
    .select({ id: item.id, stateId: item.stateId })
    .from(item)
    .where(and(inArray(item.stateId, states), isNull(item.withdrawnAt), entered.scope))
    .orderBy(item.number);
  return astrayOf(entered, items);
}

/** That an item is like what somebody asks for, who sees it. */
export async function whatIsLike(
  viewer: Viewer,
  projectKey: string,
  filter: Condition,
  now: Instant,
): Promise<SQL | undefined> {
  const entered = await enterList(viewer, projectKey, now);
  return (await narrowed(entered, filter, { board: null })).where;
}

/**
 * A page of a backlog's rows, best first.
 * @param after the place where it goes on, whatever stands there by now; from the top without one
 * @throws Refused where that is no place of a backlog
 */
export async function readBacklogRows(
  viewer: Viewer,
  projectKey: string,
  { after, filter }: { after?: string; filter?: Condition } = {},
  now = Date.now(),
): Promise<BacklogRows> {
  const { reader, ground, project, inBacklog } = await enterBacklog(viewer, projectKey, now);
  const like = filter && (await whatIsLike(viewer, projectKey, filter, now));
  const from = after === undefined ? null : readCursor(after, BY_RANK.length);
  if (after !== undefined && from === null)
    throw invalid("The backlog does not go on there.", "Open it again from its beginning.");
  const of = { reader, where: and(inBacklog, like) };
  const { rows, next } = await readPage(of, BY_RANK, { after: from, limit: BACKLOG_PAGE });
  const items = await readRows(reader, { ids: rows.map((row) => row.id as string) });
  const cards = items.map((row) => cardOf(snapshotOf(row), project.key));
  const ids = cards.map(({ id }) => id);
  const [shown, around] = await Promise.all([
    withVisibleOthers(reader, viewer, cards),
    aroundItems(reader, viewer, ground, ids),
  ]);
  const matching = like ? await countWhere(reader, of.where) : null;
  return { cards: shown, around, next, matching };
}
