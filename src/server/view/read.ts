import { and, asc, eq, isNull, or, sql, type SQL } from "drizzle-orm";
import type { NamedCondition } from "@/core/view/filter-words";
import type { Folds } from "@/core/view/folds";
import { storedLook } from "@/core/view/look";
import type { View, Views } from "@/core/view/view";
import { database, type Reader } from "@/db/connection";
import {
  board,
  columnState,
  follow,
  itemType,
  membership,
  namedCondition,
  person,
  project,
  state,
  view,
  viewFold,
  viewUse,
} from "@/db/schema";
import { grouped } from "@/core/item/grouped";
import { ACROSS_BOARDS } from "@/core/across/boards";
import { groundAsker } from "../across/asker";
import { enterGround, type Ground } from "../across/ground";
import { loadBoards } from "../board/load";
import { pick } from "@/core/item/pick";
import { teamMembers } from "../people/teams";
import type { Viewer } from "../people/viewer";

/** The views that a person may see: their own, those shown to all, and the project's. */
export const seesView = ({ personId }: Viewer): SQL | undefined =>
  or(isNull(view.ownerId), eq(view.shown, true), eq(view.ownerId, personId));

/** Whether somebody belongs to the project no more: what is theirs is nobody's then. */
export const ownerGone = sql<boolean>`(${view.ownerId} is not null and exists (select 1 from ${project} where ${project.id} = ${view.groundId}) and not exists (select 1 from ${membership} where ${membership.projectId} = ${view.groundId} and ${membership.personId} = ${view.ownerId}))`;

type ViewRow = Pick<typeof view.$inferSelect, "ownerId" | "shown">;

/** Whose a view is. */
export const sharingOf = ({ ownerId, shown }: ViewRow): View["sharing"] =>
  ownerId === null ? "project" : shown ? "shown" : "mine";

/**
 * Whether somebody may change a view: their own, and as a lead the project's and those that people
 * who are gone left behind.
 */
export const mayChangeView = (
  { ownerId, shown, gone }: ViewRow & { gone: boolean },
  { personId }: Viewer,
  { may }: Pick<Ground, "may">,
): boolean => ownerId === personId || (may("edit board") && (ownerId === null || (shown && gone)));

/** The views of a project that a person sees: those of the frame first, then by name. */
export async function loadViews(
  reader: Reader,
  ground: Ground,
  viewer: Viewer,
  which?: SQL,
): Promise<View[]> {
  const rows = await reader
    .select({
      row: view,
      owner: person.name,
      gone: ownerGone,
      favourite: viewUse.favourite,
      followed: follow.on,
    })
    .from(view)
    .leftJoin(person, eq(person.id, view.ownerId))
    .leftJoin(viewUse, and(eq(viewUse.viewId, view.id), eq(viewUse.personId, viewer.personId)))
    .leftJoin(
      follow,
      and(
        eq(follow.kind, "view"),
        eq(follow.target, sql`${view.id}::text`),
        eq(follow.personId, viewer.personId),
      ),
    )
    .where(and(eq(view.groundId, ground.id), isNull(view.putAwayAt), seesView(viewer), which))
    .orderBy(sql`${view.place} asc nulls last`, asc(view.name), asc(view.id));
  return rows.map(({ row, owner, gone, favourite, followed }) => ({
    id: row.id,
    name: row.name,
    sharing: sharingOf(row),
    owner: row.ownerId === null ? null : { id: row.ownerId, name: owner ?? row.ownerId, gone },
    look: storedLook(row.look),
    version: row.version,
    place: row.place,
    favourite: favourite ?? false,
    followed: followed ?? false,
    mayChange: mayChangeView({ ...row, gone }, viewer, ground),
  }));
}

/** The conditions that a project has given names, in their order. */
export async function loadNamedConditions(
  reader: Reader,
  projectId: string,
): Promise<NamedCondition[]> {
  return reader
    .select({
      id: namedCondition.id,
      name: namedCondition.name,
      condition: namedCondition.condition,
    })
    .from(namedCondition)
    .where(eq(namedCondition.groundId, projectId))
    .orderBy(namedCondition.position, namedCondition.name);
}

/** What a person has folded away in a project, by the view or the board. */
async function loadFolds(
  reader: Reader,
  { personId }: Viewer,
  projectId: string,
): Promise<Record<string, Folds>> {
  const rows = await reader
    .select({ place: viewFold.place, folds: viewFold.folds })
    .from(viewFold)
    .where(and(eq(viewFold.personId, personId), eq(viewFold.groundId, projectId)));
  return Object.fromEntries(rows.map(({ place, folds }) => [place, folds]));
}

/** The levels of the types whose states the boards of a project show, by board. */
async function boardLevels(
  reader: Reader,
  projectId: string,
): Promise<ReadonlyMap<string, string[]>> {
  const rows = await reader
    .selectDistinct({ boardId: board.id, level: itemType.level })
    .from(board)
    .innerJoin(columnState, eq(columnState.boardId, board.id))
    .innerJoin(state, eq(state.id, columnState.stateId))
    .innerJoin(
      itemType,
      and(eq(itemType.projectId, board.projectId), eq(itemType.workflowId, state.workflowId)),
    )
    .where(and(eq(board.projectId, projectId), eq(board.columnsBy, "state")));
  const levels = grouped(rows, ({ boardId }) => boardId);
  return new Map([...levels].map(([id, of]) => [id, of.map(({ level }) => String(level))]));
}

/** All that a person can look at in a project, or in a place above the projects. */
export async function readViews(viewer: Viewer, key: string): Promise<Views> {
  const reader = database();
  const ground = await enterGround(reader, viewer, key, "read project");
  const { id, zone, place, may } = ground;
  const now = Date.now();
  const [views, named, boards, { asker }, members, folds, levels] = await Promise.all([
    loadViews(reader, ground, viewer),
    loadNamedConditions(reader, id),
    place === null ? loadBoards(reader, id) : ACROSS_BOARDS,
    groundAsker(reader, viewer, ground, now),
    teamMembers(reader),
    loadFolds(reader, viewer, id),
    boardLevels(reader, id),
  ]);
  return {
    views,
    named,
    boards: boards.map((of) => ({
      ...pick(of, ["id", "name", "columnsBy"]),
      levels: levels.get(of.id) ?? asker.vocabulary.levels.map((level) => level.id),
    })),
    vocabulary: asker.vocabulary,
    zone,
    members,
    asker: pick(asker, ["personId", "teamIds", "sprints"]),
    folds,
    rights: {
      keep: may("keep view"),
      share: may("share view"),
      lead: may("edit board"),
      edit: may("edit item"),
      move: may("move item"),
      add: place === null && may("edit item"),
    },
  };
}
