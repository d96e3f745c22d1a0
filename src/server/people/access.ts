import {
  and,
  desc,
  eq,
  exists,
  inArray,
  isNotNull,
  isNull,
  ne,
  or,
  sql,
  type SQL,
} from "drizzle-orm";
import type { AnyPgColumn } from "drizzle-orm/pg-core";
import {
  may,
  roleIn,
  roleOutside,
  staysWherePutAway,
  type Action,
  type Role,
} from "@/core/people/authorise";
import type { Reader } from "@/db/connection";
import { item, itemEvent, membership, project, report } from "@/db/schema";
import { notAllowed, notFound, putAway } from "../refused";
import type { Principal, Viewer } from "./viewer";

export type ProjectRow = typeof project.$inferSelect;
type MembershipRole = (typeof membership.$inferSelect)["role"];

export interface ProjectAccess {
  project: ProjectRow;
  role: Role;
  may: (action: Action) => boolean;
}

/**
 * The one read filter: the projects a person may see, as a condition on `project`. Every list,
 * count, search, chart and stream of a signed-in person joins `project` and applies it.
 */
export function visibleTo(reader: Reader, viewer: Principal): SQL | undefined {
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

/** The columns of `item`, under its own name or another. */
export type ItemColumns = Record<
  "projectId" | "restricted" | "assigneeId" | "reviewerId" | "createdBy",
  AnyPgColumn
>;

/**
 * The read filter for single items, as a condition on `item`: a restricted one is seen by leads, by
 * whoever made it, and by those who work on it. Every list, search and single item applies it
 * beside `visibleTo`, wherever rows are loaded that somebody named or will read.
 * @param of the table under another name, where a query has it twice
 */
export function seesItem(
  reader: Reader,
  viewer: Principal,
  of: ItemColumns = item,
): SQL | undefined {
  if (viewer.administrator) return undefined;
  const me = viewer.personId;
  if (me === null) return eq(of.restricted, false);
  const leads = reader
    .select({ one: sql`1` })
    .from(membership)
    .where(
      and(
        eq(membership.projectId, of.projectId),
        eq(membership.personId, me),
        eq(membership.role, "lead"),
      ),
    );
  return or(
    eq(of.restricted, false),
    eq(of.assigneeId, me),
    eq(of.reviewerId, me),
    eq(of.createdBy, me),
    exists(leads),
  );
}

/**
 * The read filter for items of any project, for what stands around an item and may be in another
 * one: linked to it, waited for by it. `seesItem` with `visibleTo` in it.
 * @param of the table under another name, where a query has it twice
 */
export function seesAnywhere(
  reader: Reader,
  viewer: Principal,
  of: ItemColumns = item,
): SQL | undefined {
  if (viewer.administrator) return undefined;
  const visible = reader.select({ id: project.id }).from(project).where(visibleTo(reader, viewer));
  return and(inArray(of.projectId, visible), seesItem(reader, viewer, of));
}

/** Not `seesAnywhere`: what a person may not see, whatever project it is in. */
export function hiddenAnywhere(reader: Reader, viewer: Principal): SQL {
  const seen = seesAnywhere(reader, viewer);
  return seen ? sql`(${seen}) is not true` : sql`false`;
}

/**
 * Whether a read filter holds for a row, as a column of a query: for what is counted for everybody and
 * told only to those who see it.
 */
export const isSeen = (filter: SQL | undefined): SQL<boolean> =>
  filter ? sql<boolean>`(${filter}) is true` : sql<boolean>`true`;

/**
 * Not `seesItem`. "Not true" and not just "not": nobody reviews it yet, and then the comparison
 * says neither yes nor no.
 */
export function hiddenFrom(reader: Reader, viewer: Principal): SQL {
  const seen = seesItem(reader, viewer);
  return seen ? and(eq(item.restricted, true), sql`(${seen}) is not true`)! : sql`false`;
}

/**
 * The items of a project that a person may not see, and those that have gone from it to where they
 * may not see them, for what is computed for all at once and then given out.
 */
export async function hiddenItems(
  reader: Reader,
  viewer: Principal,
  projectId: string,
): Promise<ReadonlySet<string>> {
  if (viewer.administrator) return new Set();
  const rows = await reader
    .select({ id: item.id })
    .from(item)
    .where(and(eq(item.projectId, projectId), hiddenFrom(reader, viewer)))
    .union(
      reader
        .select({ id: item.id })
        .from(item)
        .innerJoin(itemEvent, eq(itemEvent.itemId, item.id))
        .where(and(hasLeft(projectId), hiddenAnywhere(reader, viewer))),
    );
  return new Set(rows.map((r) => r.id));
}

/** That an item has left a project, as a condition on `item` joined with `item_event`. */
const hasLeft = (projectId: string): SQL =>
  and(
    eq(itemEvent.kind, "changed project"),
    sql`${itemEvent.old} ->> 'projectId' = ${projectId}`,
    ne(item.projectId, projectId),
  )!;

/**
 * The read filter for reports, as a condition on `report`: what became an item, or was put to one,
 * is seen by those who see that item.
 */
export function seesReport(reader: Reader, viewer: Principal): SQL | undefined {
  const seen = seesItem(reader, viewer);
  if (!seen) return undefined;
  return or(
    isNull(report.itemId),
    exists(
      reader
        .select({ one: sql`1` })
        .from(item)
        .where(and(eq(item.id, report.itemId), seen)),
    ),
  );
}

/**
 * Enters a project for an action.
 * @param asked what was named, for the words when there is none
 * @throws Refused "not found" when the person may not see it, "not allowed" when their role lacks
 *   the action
 */
export async function enterProject({
  reader,
  viewer,
  where,
  action,
  asked = "project",
}: {
  reader: Reader;
  viewer: Principal;
  where: { key: string } | { id: string };
  action: Action;
  asked?: string;
}): Promise<ProjectAccess> {
  const [row] = await reader
    .select({ project, membership: membership.role })
    .from(project)
    .leftJoin(membership, membershipOf(viewer))
    .where(
      and(
        "key" in where ? eq(project.key, where.key) : eq(project.id, where.id),
        visibleTo(reader, viewer),
      ),
    );
  return admit(viewer, row, action, asked);
}

/** The viewer's own membership of the project in a query's rows. */
export const membershipOf = (viewer: Principal): SQL | undefined =>
  and(
    eq(membership.projectId, project.id),
    viewer.personId === null ? sql`false` : eq(membership.personId, viewer.personId),
  );

/**
 * Decides on a project read together with the viewer's membership (`membershipOf`) under
 * `visibleTo`.
 * @throws Refused "not found" when the person may not see it, "not allowed" when their role lacks
 *   the action
 */
export function admit(
  viewer: Principal,
  row: { project: ProjectRow; membership: MembershipRole | null } | undefined,
  action: Action,
  asked = "project",
): ProjectAccess {
  if (!row) throw notFound(asked);
  const role = roleIn(viewer, row.membership, row.project.visibility);
  if (!role || !may(role, "read project")) throw notFound(asked);
  if (!may(role, action)) throw notAllowed(action);
  const away = row.project.putAwayAt !== null;
  if (away && !staysWherePutAway(action)) throw putAway(row.project.name);
  return {
    project: row.project,
    role,
    may: (a) => may(role, a) && (!away || staysWherePutAway(a)),
  };
}

/** Whether a person may do something that belongs to no project. */
export async function mayOutside(reader: Reader, viewer: Viewer, action: Action): Promise<boolean> {
  const rows = await reader
    .select({ role: membership.role })
    .from(membership)
    .where(eq(membership.personId, viewer.personId));
  return may(
    roleOutside(
      viewer,
      rows.map((r) => r.role),
    ),
    action,
  );
}

/** The projects a person may see, by name; not those that were put away. */
export async function visibleProjects(reader: Reader, viewer: Viewer): Promise<ProjectRow[]> {
  return reader
    .select()
    .from(project)
    .where(and(visibleTo(reader, viewer), isNull(project.putAwayAt)))
    .orderBy(project.name);
}

/** Those of them that were put away, the latest first. */
export async function projectsPutAway(
  reader: Reader,
  viewer: Viewer,
): Promise<Pick<ProjectRow, "key" | "name">[]> {
  return reader
    .select({ key: project.key, name: project.name })
    .from(project)
    .where(and(visibleTo(reader, viewer), isNotNull(project.putAwayAt)))
    .orderBy(desc(project.putAwayAt), project.name);
}

/**
 * The projects a person may see, by name, with what they may do in each; not those that were put
 * away.
 * @param which only those of them
 */
export async function accessibleProjects(
  reader: Reader,
  viewer: Viewer,
  which?: SQL,
): Promise<ProjectAccess[]> {
  const rows = await reader
    .select({ project, membership: membership.role })
    .from(project)
    .leftJoin(membership, membershipOf(viewer))
    .where(and(visibleTo(reader, viewer), isNull(project.putAwayAt), which))
    .orderBy(project.name, project.id);
  return rows.map((row) => admit(viewer, row, "read project"));
}
