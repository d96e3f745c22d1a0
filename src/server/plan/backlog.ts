import { and, inArray, isNull } from "drizzle-orm";
import { followedWorkflows } from "@/core/board/followed";
import type { Instant } from "@/core/calendar/instant";
import { BACKLOG_PAGE, type BacklogRows, type BacklogView } from "@/core/plan/backlog-view";
import { database } from "@/db/connection";
import { item } from "@/db/schema";
import { behindItem, cardsWhere, seenInScope } from "../board/cards";
import { columnCounts } from "../board/column-counts";
import { loadBoard } from "../board/read";
import { countWhere } from "../item/count";
import { loadOwnFields } from "../item/own-fields";
import { withVisibleParents } from "../item/visible-parent";
import { enterProject } from "../people/access";
import { roster } from "../people/roster";
import type { Viewer } from "../people/viewer";
import { projectTypes } from "../workflow/load";
import { timeboxTotals } from "./timebox-totals";
import { loadReleases, loadSprints } from "./timeboxes";

/**
 * The backlog of a project for somebody: what waits before the process that its first board shows.
 */
async function enterBacklog(viewer: Viewer, projectKey: string, now: Instant) {
  const reader = database();
  const access = await enterProject({
    reader,
    viewer,
    where: { key: projectKey },
    action: "read project",
  });
  const { project } = access;
  const [{ board, columns }, { types, workflows }] = await Promise.all([
    loadBoard(reader, project.id),
    projectTypes(reader, project.id),
  ]);
  const unstarted = followedWorkflows(workflows, columns)
    .flatMap((w) => w.states)
    .filter((s) => s.kind === "unstarted");
  const inBacklog = and(
    inArray(
      item.stateId,
      unstarted.map((s) => s.id),
    ),
    isNull(item.withdrawnAt),
    await seenInScope({ reader, viewer, project, board, now }),
  );
  return { reader, access, project, board, columns, types, workflows, inBacklog };
}

/** Everything about a backlog but its rows. */
export async function readBacklog(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<BacklogView> {
  const entered = await enterBacklog(viewer, projectKey, now);
  const { reader, access, project, board, types, workflows, inBacklog } = entered;
  const first = entered.columns[0];
  const columnIds = first ? [first.id] : [];
  const [total, held, totals, { people }, sprints, releases, ownFields] = await Promise.all([
    countWhere(reader, inBacklog),
    columnCounts({ reader, project, board, columnIds, now }),
    timeboxTotals(reader, viewer, project.id),
    roster(reader, project.id),
    loadSprints(reader, project.id),
    loadReleases(reader, project.id),
    loadOwnFields(reader, project.id),
  ]);
  return {
    project: { id: project.id, key: project.key, name: project.name, zone: project.zone },
    total,
    pulledInto: first ? { column: first, holds: held.get(first.id) ?? 0 } : null,
    totals,
    workflows,
    types,
    people,
    sprints,
    releases,
    ownFields: ownFields.filter((f) => f.removedAt === null),
    rights: { move: access.may("move item"), edit: access.may("edit item") },
    now,
  };
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
  const { reader, project, inBacklog } = await enterBacklog(viewer, projectKey, now);
  const behind = after === undefined ? undefined : behindItem(reader, viewer, after);
  const read = await cardsWhere(reader, project, and(inBacklog, behind), BACKLOG_PAGE + 1);
  return {
    cards: await withVisibleParents(reader, viewer, read.slice(0, BACKLOG_PAGE)),
    more: read.length > BACKLOG_PAGE,
  };
}
