import { and, eq, exists, gte, inArray, isNull, or, sql, type SQL } from "drizzle-orm";
import { acrossKey, readAcrossKey, type AcrossPlace } from "@/core/across/place";
import { LARGE_LEVEL } from "@/core/item/item-type";
import type { Action } from "@/core/people/authorise";
import type { Reader } from "@/db/connection";
import {
  item,
  itemType,
  project,
  projectGroup,
  projectGroupProject,
  team,
  teamMember,
} from "@/db/schema";
import { accessibleProjects, enterProject, type ProjectAccess } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notAllowed, notFound } from "../refused";

/**
 * What somebody looks at: the items of one project, or of a place above the projects. Lists, views
 * and boards are about one of them.
 */
export interface Ground {
  /** As it stands in addresses: the key of the project, or of the place. */
  key: string;
  /** Under which its views are kept. */
  id: string;
  name: string;
  /** IANA zone in which its days are counted. */
  zone: string;
  place: AcrossPlace | null;
  /** Its projects, as far as this person may see them. */
  projects: readonly ProjectAccess[];
  /** Which items it is about. */
  items: SQL | undefined;
  may: (action: Action) => boolean;
  /** The key of one of its projects. */
  keyOf: (projectId: string) => string;
}

/** A project that somebody has entered, as what they look at. */
export function groundOf(access: ProjectAccess): Ground {
  const { project: of, may } = access;
  return {
    key: of.key,
    id: of.id,
    name: of.name,
    zone: of.zone,
    place: null,
    projects: [access],
    items: eq(item.projectId, of.id),
    may,
    keyOf: () => of.key,
  };
}

/**
 * Lets a person in at a project, or at a place above the projects.
 * @throws Refused "not found" when there is nothing of it that they may see, "not allowed" when they
 *   may not do what is asked
 */
export async function enterGround(
  reader: Reader,
  viewer: Viewer,
  key: string,
  action: Action,
): Promise<Ground> {
  const place = readAcrossKey(key);
  if (place === null)
    return groundOf(await enterProject({ reader, viewer, where: { key }, action }));
  const [named, of] = await Promise.all([
    nameOf(reader, viewer, place),
    accessesOf(reader, viewer, place),
  ]);
  if (named === null || of.length === 0) throw notFound("place");
  const ground = acrossGround(reader, viewer, { place, of, ...named });
  if (!ground.may(action)) throw notAllowed(action);
  return ground;
}

interface Named {
  name: string;
  /** Whether this person looks after the place. */
  mayChange: boolean;
}

function acrossGround(
  reader: Reader,
  viewer: Viewer,
  { place, of, name, mayChange }: Named & { place: AcrossPlace; of: readonly ProjectAccess[] },
): Ground {
  const ids = of.map((access) => access.project.id);
  const keys = new Map(of.map((access) => [access.project.id, access.project.key]));
  const key = acrossKey(place);
  return {
    key,
    id: acrossId(viewer, place),
    name,
    zone: of[0].project.zone,
    place,
    projects: of,
    items: and(inArray(item.projectId, ids), itemsOf(reader, viewer, place)),
    may: (action) => mayAcross(action, { place, of, mayChange }),
    keyOf: (projectId) => keys.get(projectId) ?? "?",
  };
}

/** Under which the views of a place above the projects are kept: each person has a "mine". */
export const acrossId = ({ personId }: Viewer, place: AcrossPlace): string =>
  place.kind === "mine" ? `mine-${personId}` : acrossKey(place);

/** What is about a project alone, nobody does above the projects. */
const OF_ONE_PROJECT: readonly Action[] = ["edit workflow", "read intake", "override limit"];

function mayAcross(
  action: Action,
  {
    place,
    of,
    mayChange,
  }: Pick<Named, "mayChange"> & { place: AcrossPlace; of: readonly ProjectAccess[] },
): boolean {
  if (OF_ONE_PROJECT.includes(action)) return false;
  if (action === "edit board") return mayChange;
  if (action === "share view") return place.kind !== "mine";
  return of.some((access) => access.may(action));
}

/** What a place is called; null where there is none, or nobody of it is this person. */
async function nameOf(
  reader: Reader,
  { personId, administrator }: Viewer,
  place: AcrossPlace,
): Promise<Named | null> {
  if (place.kind === "mine") return { name: "Mine", mayChange: false };
  if (place.kind === "team") {
    const [found] = await reader
      .select({
        name: team.name,
        member: sql<boolean>`exists (select 1 from ${teamMember} where ${teamMember.teamId} = ${team.id} and ${teamMember.personId} = ${personId})`,
      })
      .from(team)
      .where(eq(team.id, place.id));
    return found ? { name: found.name, mayChange: found.member || administrator } : null;
  }
  const [found] = await reader
    .select({ name: projectGroup.name, madeBy: projectGroup.madeBy })
    .from(projectGroup)
    .where(and(sql`${projectGroup.id}::text = ${place.id}`, isNull(projectGroup.putAwayAt)));
  return found ? { name: found.name, mayChange: found.madeBy === personId || administrator } : null;
}

/** The projects of a place that a person may see, by name. */
async function accessesOf(
  reader: Reader,
  viewer: Viewer,
  place: AcrossPlace,
): Promise<ProjectAccess[]> {
  const grouped = reader
    .select({ one: sql`1` })
    .from(projectGroupProject)
    .where(
      and(
        eq(projectGroupProject.projectId, project.id),
        place.kind === "group"
          ? sql`${projectGroupProject.groupId}::text = ${place.id}`
          : undefined,
      ),
    );
  return accessibleProjects(reader, viewer, place.kind === "group" ? exists(grouped) : undefined);
}

/**
 * The items of a person or a team, and the large pieces that they are part of; of a group of
 * projects all that is in them.
 */
function itemsOf(reader: Reader, { personId }: Viewer, place: AcrossPlace): SQL | undefined {
  if (place.kind === "group") return undefined;
  const theirs =
    place.kind === "team"
      ? sql`i.team_id = ${place.id}`
      : sql`(i.assignee_id = ${personId} or i.reviewer_id = ${personId})`;
  const own =
    place.kind === "team"
      ? eq(item.teamId, place.id)
      : or(eq(item.assigneeId, personId), eq(item.reviewerId, personId));
  const above = sql`(with recursive above(id) as (
    select i.parent_id from item i where ${theirs} and i.parent_id is not null and i.withdrawn_at is null
    union
    select i.parent_id from item i join above on i.id = above.id where i.parent_id is not null
  ) select id from above)`;
  const large = exists(
    reader
      .select({ one: sql`1` })
      .from(itemType)
      .where(
        and(
          eq(itemType.projectId, item.projectId),
          eq(itemType.id, item.typeId),
          gte(itemType.level, LARGE_LEVEL),
        ),
      ),
  );
  return or(own, and(sql`${item.id} in ${above}`, large));
}

/** The only project of what is looked at. @throws Refused above the projects */
export function onlyProject({ place, projects: [only] }: Ground): ProjectAccess {
  if (place !== null) throw notAllowed("doing this in several projects at once");
  return only;
}
