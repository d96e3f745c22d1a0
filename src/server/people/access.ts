import { and, eq, exists, or, sql, type SQL } from "drizzle-orm";
import { may, roleIn, roleOutside, type Action, type Role } from "@/core/people/authorise";
import type { Reader } from "@/db/connection";
import { item, membership, project } from "@/db/schema";
import { notAllowed, notFound } from "../refused";
import type { Doer, Viewer } from "./viewer";

export type ProjectRow = typeof project.$inferSelect;
type MembershipRole = (typeof membership.$inferSelect)["role"];

export interface ProjectAccess {
  project: ProjectRow;
  role: Role;
  may: (action: Action) => boolean;
}

/**
 * The one read filter: the projects a person may see, as a condition on `project`. Every list, count, search, chart
 * and stream of a signed-in person joins `project` and applies it.
 */
export function visibleTo(reader: Reader, viewer: Doer): SQL | undefined {
  if (viewer.administrator) return undefined;
  return or(
    eq(project.visibility, "everyone"),
    exists(
      reader
        .select({ one: sql`1` })
        .from(membership)
        .where(membershipOf(viewer)),
    ),
  );
}

/**
 * The read filter for single items, as a condition on `item`: a restricted one is seen by leads, by whoever made it, and by
 * those who work on it. Every list, count, search and chart applies it beside `visibleTo`.
 */
export function seesItem(reader: Reader, viewer: Doer): SQL | undefined {
  if (viewer.administrator) return undefined;
  const me = viewer.personId;
  if (me === null) return eq(item.restricted, false);
  const leads = reader.select({ one: sql`1` }).from(membership).where(and(eq(membership.projectId, item.projectId), eq(membership.personId, me), eq(membership.role, "lead")));
  return or(eq(item.restricted, false), eq(item.assigneeId, me), eq(item.reviewerId, me), eq(item.createdBy, me), exists(leads));
}

/** The items of a project that a person may not see, for what is computed for all at once and then given out. */
export async function hiddenItems(reader: Reader, viewer: Doer, projectId: string): Promise<ReadonlySet<string>> {
  const seen = seesItem(reader, viewer);
  if (!seen) return new Set();
  // "Not true" and not just "not": nobody reviews it yet, and then the comparison says neither yes nor no.
  const rows = await reader.select({ id: item.id }).from(item).where(and(eq(item.projectId, projectId), eq(item.restricted, true), sql`(${seen}) is not true`));
  return new Set(rows.map((r) => r.id));
}

/**
 * Enters a project for an action.
 * @throws Refused "not found" when the person may not see it, "not allowed" when their role lacks the action
 */
export async function enterProject(reader: Reader, viewer: Doer, where: { key: string } | { id: string }, action: Action): Promise<ProjectAccess> {
  const [row] = await reader
    .select({ project, membership: membership.role })
    .from(project)
    .leftJoin(membership, membershipOf(viewer))
    .where(and("key" in where ? eq(project.key, where.key) : eq(project.id, where.id), visibleTo(reader, viewer)));
  return admit(viewer, row, action);
}

/** The viewer's own membership of the project in a query's rows. */
export const membershipOf = (viewer: Doer): SQL | undefined => and(eq(membership.projectId, project.id), viewer.personId === null ? sql`false` : eq(membership.personId, viewer.personId));

/**
 * Decides on a project read together with the viewer's membership (`membershipOf`) under `visibleTo`.
 * @throws Refused "not found" when the person may not see it, "not allowed" when their role lacks the action
 */
export function admit(viewer: Doer, row: { project: ProjectRow; membership: MembershipRole | null } | undefined, action: Action): ProjectAccess {
  if (!row) throw notFound("project");
  const role = roleIn(viewer, row.membership, row.project.visibility);
  if (!role || !may(role, "read project")) throw notFound("project");
  if (!may(role, action)) throw notAllowed(action);
  return { project: row.project, role, may: (a) => may(role, a) };
}

/** Whether a person may do something that belongs to no project. */
export async function mayOutside(reader: Reader, viewer: Viewer, action: Action): Promise<boolean> {
  const rows = await reader.select({ role: membership.role }).from(membership).where(eq(membership.personId, viewer.personId));
  return may(roleOutside(viewer, rows.map((r) => r.role)), action);
}

/** The projects a person may see, by name. */
export async function visibleProjects(reader: Reader, viewer: Viewer): Promise<ProjectRow[]> {
  return reader.select().from(project).where(visibleTo(reader, viewer)).orderBy(project.name);
}
