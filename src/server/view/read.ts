import { and, asc, eq, isNull, or, sql, type SQL } from "drizzle-orm";
import type { NamedCondition } from "@/core/view/filter-words";
import type { Folds } from "@/core/view/folds";
import { storedLook } from "@/core/view/look";
import type { View, Views } from "@/core/view/view";
import { database, type Reader } from "@/db/connection";
import { membership, namedCondition, person, view, viewFold, viewUse } from "@/db/schema";
import { loadBoards } from "../board/load";
import { pick } from "@/core/item/pick";
import { viewerAsker } from "../condition/asker";
import { teamMembers } from "../people/teams";
import { loadVocabulary } from "../condition/vocabulary";
import { enterProject, type ProjectAccess } from "../people/access";
import type { Viewer } from "../people/viewer";

/** The views that a person may see: their own, those shown to all, and the project's. */
export const seesView = ({ personId }: Viewer): SQL | undefined =>
  or(isNull(view.ownerId), eq(view.shown, true), eq(view.ownerId, personId));

/** Whether somebody belongs to the project no more: what is theirs is nobody's then. */
export const ownerGone = sql<boolean>`(${view.ownerId} is not null and not exists (select 1 from ${membership} where ${membership.projectId} = ${view.projectId} and ${membership.personId} = ${view.ownerId}))`;

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
  { may }: ProjectAccess,
): boolean => ownerId === personId || (may("edit board") && (ownerId === null || (shown && gone)));

/** The views of a project that a person sees: those of the frame first, then by name. */
export async function loadViews(
  reader: Reader,
  access: ProjectAccess,
  viewer: Viewer,
  which?: SQL,
): Promise<View[]> {
  const rows = await reader
    .select({
      row: view,
      owner: person.name,
      gone: ownerGone,
      favourite: viewUse.favourite,
    })
    .from(view)
    .leftJoin(person, eq(person.id, view.ownerId))
    .leftJoin(viewUse, and(eq(viewUse.viewId, view.id), eq(viewUse.personId, viewer.personId)))
    .where(
      and(eq(view.projectId, access.project.id), isNull(view.putAwayAt), seesView(viewer), which),
    )
    .orderBy(sql`${view.place} asc nulls last`, asc(view.name), asc(view.id));
  return rows.map(({ row, owner, gone, favourite }) => ({
    id: row.id,
    name: row.name,
    sharing: sharingOf(row),
    owner: row.ownerId === null ? null : { id: row.ownerId, name: owner ?? row.ownerId, gone },
    look: storedLook(row.look),
    version: row.version,
    place: row.place,
    favourite: favourite ?? false,
    mayChange: mayChangeView({ ...row, gone }, viewer, access),
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
    .where(eq(namedCondition.projectId, projectId))
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
    .where(and(eq(viewFold.personId, personId), eq(viewFold.projectId, projectId)));
  return Object.fromEntries(rows.map(({ place, folds }) => [place, folds]));
}

/** All that a person can look at in a project. */
export async function readViews(viewer: Viewer, projectKey: string): Promise<Views> {
  const reader = database();
  const where = { key: projectKey };
  const access = await enterProject({ reader, viewer, where, action: "read project" });
  const { project, may } = access;
  const now = Date.now();
  const [views, named, boards, vocabulary, members, asker, folds] = await Promise.all([
    loadViews(reader, access, viewer),
    loadNamedConditions(reader, project.id),
    loadBoards(reader, project.id),
    loadVocabulary(reader, project.id),
    teamMembers(reader),
    viewerAsker(reader, viewer, project, now),
    loadFolds(reader, viewer, project.id),
  ]);
  return {
    views,
    named,
    boards: boards.map(({ id, name, columnsBy }) => ({ id, name, columnsBy })),
    vocabulary,
    zone: project.zone,
    members,
    asker: pick(asker, ["personId", "teamIds", "sprints"]),
    folds,
    rights: {
      keep: may("keep view"),
      share: may("share view"),
      lead: may("edit board"),
      edit: may("edit item"),
      move: may("move item"),
    },
  };
}
