import { and, eq, inArray, ne } from "drizzle-orm";
import type { Reader } from "@/db/connection";
import { membership } from "@/db/schema";
import { invalid } from "../refused";

/** Which of some people belong to a project. */
export async function membersAmong(
  reader: Reader,
  projectId: string,
  personIds: readonly string[],
): Promise<Set<string>> {
  if (personIds.length === 0) return new Set();
  const members = await reader
    .select({ id: membership.personId })
    .from(membership)
    .where(and(eq(membership.projectId, projectId), inArray(membership.personId, [...personIds])));
  return new Set(members.map((m) => m.id));
}

/**
 * Whoever is named anew in an item must belong to its project; who was named before and has left
 * stays until somebody changes it.
 */
export async function checkMembers(
  reader: Reader,
  projectId: string,
  named: readonly unknown[],
): Promise<void> {
  const ids = [...new Set(named.filter((id) => typeof id === "string"))];
  const members = await membersAmong(reader, projectId, ids);
  if (members.size < ids.length)
    throw invalid(
      "Nobody of that name belongs to this project.",
      "Choose somebody from the list, or let a lead add them first.",
    );
}

/** Whether somebody else than a person leads a project. */
export async function hasOtherLead(
  reader: Reader,
  projectId: string,
  personId: string,
): Promise<boolean> {
  const [other] = await reader
    .select({ id: membership.personId })
    .from(membership)
    .where(
      and(
        eq(membership.projectId, projectId),
        eq(membership.role, "lead"),
        ne(membership.personId, personId),
      ),
    )
    .limit(1);
  return other !== undefined;
}
