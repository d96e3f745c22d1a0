import { eq } from "drizzle-orm";
import type { ProjectPerson } from "@/core/workflow/design-view";
import type { Reader } from "@/db/connection";
import { membership, person, teamMember } from "@/db/schema";

/** The people of a project with their role and teams, as rules see them. */
export async function projectPeople(reader: Reader, projectId: string): Promise<ProjectPerson[]> {
  const rows = await reader
    .select({ id: person.id, name: person.name, role: membership.role, teamId: teamMember.teamId })
    .from(membership)
    .innerJoin(person, eq(person.id, membership.personId))
    .leftJoin(teamMember, eq(teamMember.personId, membership.personId))
    .where(eq(membership.projectId, projectId))
    .orderBy(person.name);
  const people = new Map<string, ProjectPerson>();
  for (const { id, name, role, teamId } of rows) {
    const known = people.get(id) ?? { id, name, role, teamIds: [] };
    if (teamId) known.teamIds.push(teamId);
    people.set(id, known);
  }
  return [...people.values()];
}
