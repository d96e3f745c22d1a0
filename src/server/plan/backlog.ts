import { and, inArray, isNull } from "drizzle-orm";
import { astrayOf, type Astray } from "@/core/board/astray";
import { followedWorkflows, uncoveredStates } from "@/core/board/followed";
import { BACKLOG_PAGE, type BacklogRows, type BacklogView } from "@/core/plan/backlog-view";
import { item } from "@/db/schema";
import { limitOfColumn } from "@/core/board/board-limits";
import type { Instant } from "@/core/calendar/instant";
import { projectLimits } from "../board/board-limits";
import { enterBoard, type EnteredBoard } from "../board/enter";
import { countWhere } from "../item/count";
import { behindItem, cardsWhere } from "../item/list/cards";
import { loadOwnFields } from "../item/own-fields";
import { withVisibleOthers } from "../item/visible-others";
import { roster } from "../people/roster";
import type { Viewer } from "../people/viewer";
import { timeboxTotals } from "./timebox-totals";
import { loadReleases, loadSprints } from "./timeboxes";

/**
 * The backlog of a project for somebody: what waits before the process that its first board shows.
 */
async function enterBacklog(viewer: Viewer, projectKey: string, now: Instant) {
  const entered = await enterBoard(projectKey, { viewer, boardId: null, now });
  const unstarted = followedWorkflows(entered)
    .flatMap((w) => w.states)
    .filter((s) => s.kind === "unstarted");
  const inBacklog = and(
    inArray(
      item.stateId,
      unstarted.map((s) => s.id),
    ),
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
  const [total, astray, into, totals, { people }, sprints, releases, ownFields] = await Promise.all(
    [
      countWhere(reader, inBacklog),
      readAstray(entered),
      pulledInto(entered, now),
      timeboxTotals(reader, viewer, project.id),
      roster(reader, project.id),
      loadSprints(reader, project.id),
      loadReleases(reader, project.id),
      loadOwnFields(reader, project.id),
    ],
  );
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
    ownFields: ownFields.filter((f) => f.removedAt === null),
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

/**
 * A page of a backlog's rows, best first.
 * @param after the item it goes on behind, wherever that is by now; from the top without one, and
 *   nothing behind one that this person may not see
 */
export async function readBacklogRows(
  viewer: Viewer,
  projectKey: string,
  after?: string,
  now = Date.now(),
): Promise<BacklogRows> {
  const { reader, ground, inBacklog } = await enterBacklog(viewer, projectKey, now);
  const behind = after === undefined ? undefined : behindItem(reader, viewer, after);
  const read = await cardsWhere(reader, ground, and(inBacklog, behind), BACKLOG_PAGE + 1);
  return {
    cards: await withVisibleOthers(reader, viewer, read.slice(0, BACKLOG_PAGE)),
    more: read.length > BACKLOG_PAGE,
  };
}
