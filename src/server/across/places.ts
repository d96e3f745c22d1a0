import { and, asc, eq, inArray } from "drizzle-orm";
import type { AcrossPlaces, OfferedPlace } from "@/core/across/contract";
import { acrossKey } from "@/core/across/place";
import { grouped } from "@/core/item/grouped";
import { database, type Reader } from "@/db/connection";
import { projectGroup, projectGroupProject, team, teamMember } from "@/db/schema";
import { visibleProjects } from "../people/access";
import type { Viewer } from "../people/viewer";

/** The places above the projects that a person may open: their own first, then their teams'. */
export async function readPlaces(
  viewer: Viewer,
  reader: Reader = database(),
): Promise<AcrossPlaces> {
  const projects = await visibleProjects(reader, viewer);
  const [teams, groups] = await Promise.all([
    teamPlaces(reader, viewer),
    groupPlaces(
      reader,
      viewer,
      projects.map(({ id }) => id),
    ),
  ]);
  const mine: OfferedPlace = {
    key: acrossKey({ kind: "mine" }),
    name: "Mine",
    kind: "mine",
    projectIds: [],
    mayChange: false,
  };
  return {
    places: [mine, ...teams, ...groups.filter(({ away }) => !away).map(({ away: _, ...of }) => of)],
    away: groups
      .filter(({ away, mayChange }) => away && mayChange)
      .map(({ id, name }) => ({ id, name })),
    projects: projects.map(({ id, key, name }) => ({ id, key, name })),
  };
}

async function teamPlaces(reader: Reader, { personId }: Viewer): Promise<OfferedPlace[]> {
  const rows = await reader
    .select({ id: team.id, name: team.name, member: teamMember.personId })
    .from(team)
    .leftJoin(teamMember, and(eq(teamMember.teamId, team.id), eq(teamMember.personId, personId)))
    .orderBy(asc(team.name));
  // One's own teams stand before the others.
  return rows
    .toSorted((a, b) => Number(a.member === null) - Number(b.member === null))
    .map(({ id, name, member }) => ({
      key: acrossKey({ kind: "team", id }),
      name,
      kind: "team",
      projectIds: [],
      mayChange: member !== null,
    }));
}

/** Groups of which this person may see a project, or which they made. */
async function groupPlaces(reader: Reader, { personId, administrator }: Viewer, seen: string[]) {
  const rows = await reader
    .select({
      id: projectGroup.id,
      name: projectGroup.name,
      madeBy: projectGroup.madeBy,
      putAwayAt: projectGroup.putAwayAt,
      projectId: projectGroupProject.projectId,
    })
    .from(projectGroup)
    .innerJoin(projectGroupProject, eq(projectGroupProject.groupId, projectGroup.id))
    .where(inArray(projectGroupProject.projectId, seen))
    .orderBy(asc(projectGroup.name), asc(projectGroup.id));
  return [...grouped(rows, ({ id }) => id)].map(([id, its]) => {
    const [{ name, madeBy, putAwayAt }] = its;
    return {
      id,
      key: acrossKey({ kind: "group", id }),
      name,
      kind: "group" as const,
      projectIds: its.map(({ projectId }) => projectId),
      mayChange: madeBy === personId || administrator,
      away: putAwayAt !== null,
    };
  });
}
