import { and, inArray, isNull } from "drizzle-orm";
import { astrayOf, type Astray } from "@/core/board/astray";
import { followedWorkflows, uncoveredStates } from "@/core/board/followed";
import { type BacklogView } from "@/core/plan/backlog-view";
import type { State } from "@/core/workflow/state";
import { item } from "@/db/schema";
import { limitOfColumn } from "@/core/board/board-limits";
import type { Instant } from "@/core/calendar/instant";
import { projectLimits } from "../board/board-limits";
import { enterBoard, type EnteredBoard } from "../board/enter";
import { loadVocabulary } from "../condition/vocabulary";
import { countWhere } from "../item/count";
import { loadOwnFields } from "../item/own-fields";
import { roster } from "../people/roster";
import type { Viewer } from "../people/viewer";
import { readBacklogLook } from "./backlog-look";
import { planSettingsOf } from "./settings";
import { timeboxTotals } from "./timebox-totals";
import { loadReleases, loadSprints } from "./timeboxes";

/** The states in which items of a board wait to be begun, in the order of their workflows. */
export const waitingStates = (entered: EnteredBoard): State[] =>
  followedWorkflows(entered)
    .flatMap((of) => of.states)
    .filter(({ kind }) => kind === "unstarted");

export const unstartedStates = (entered: EnteredBoard): string[] =>
  waitingStates(entered).map(({ id }) => id);

/**
 * The backlog of a project for somebody: what waits before the process that its first board shows.
 */
export async function enterBacklog(viewer: Viewer, projectKey: string, now: Instant) {
  const entered = await enterBoard(projectKey, { viewer, boardId: null, now });
  const inBacklog = and(
    inArray(item.stateId, unstartedStates(entered)),
    isNull(item.withdrawnAt),
    entered.scope,
  );
  return { ...entered, inBacklog };
}

export type EnteredBacklog = Awaited<ReturnType<typeof enterBacklog>>;

/** Everything about a backlog but its rows. */
export const readBacklog = async (
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<BacklogView> =>
  readEnteredBacklog(viewer, await enterBacklog(viewer, projectKey, now), now);

/** The same where somebody was let in at it before. */
export async function readEnteredBacklog(
  viewer: Viewer,
  entered: EnteredBacklog,
  now: Instant,
): Promise<BacklogView> {
  const { reader, access, project, types, workflows, inBacklog } = entered;
  const [total, look, astray, into, totals, { people }, sprints, releases, ownFields, vocabulary] =
    await Promise.all([
      countWhere(reader, inBacklog),
      readBacklogLook(reader, viewer, project.id),
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
    waiting: waitingStates(entered).map(({ id, name }) => ({ id, name })),
    look,
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
export async function pulledInto(
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
