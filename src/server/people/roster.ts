import { eq } from "drizzle-orm";
import type { Reader } from "@/db/connection";
import { membership, person, team } from "@/db/schema";
import type { RosterPerson } from "@/core/people/roster";

/** The people of a project and all teams; what choosing an assignee or naming an actor needs. */
export async function roster(
  reader: Reader,
  projectId: string,
): Promise<{ people: RosterPerson[]; teams: { id: string; name: string }[] }> {
  const [people, teams] = await Promise.all([
    reader
      .select({
        id: person.id,
        name: person.name,
        calling: person.calling,
        role: membership.role,
        trades: membership.trades,
      })
      .from(membership)
      .innerJoin(person, eq(person.id, membership.personId))
      .where(eq(membership.projectId, projectId))
      .orderBy(person.name),
    reader.select().from(team).orderBy(team.name),
  ]);
  return { people, teams };
}
