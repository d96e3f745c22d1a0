import { and, eq, exists, or, sql, type SQL } from "drizzle-orm";
import { may, roleIn, type Action, type Role } from "@/core/people/authorise";
import type { Reader } from "@/db/connection";
import { membership, project } from "@/db/schema";
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

/** The projects a person may see, by name. */
export async function visibleProjects(reader: Reader, viewer: Viewer): Promise<ProjectRow[]> {
  return reader.select().from(project).where(visibleTo(reader, viewer)).orderBy(project.name);
}
