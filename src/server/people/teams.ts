import { asc } from "drizzle-orm";
import type { Reader } from "@/db/connection";
import { teamMember } from "@/db/schema";

/** The people of each team, by its id. */
export async function teamMembers(reader: Reader): Promise<Record<string, string[]>> {
  const rows = await reader
    .select({ teamId: teamMember.teamId, personId: teamMember.personId })
    .from(teamMember)
    .orderBy(asc(teamMember.personId));
  const members: Record<string, string[]> = {};
  for (const { teamId, personId } of rows) (members[teamId] ??= []).push(personId);
  return members;
}
