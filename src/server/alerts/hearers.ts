import { and, eq, isNull, or, sql } from "drizzle-orm";
import type { Reader } from "@/db/connection";
import { membership, person, project } from "@/db/schema";
import { amongGiven, namedQuery } from "@/db/statement";

/** What of an item decides who sees it. */
interface Seen {
  projectId: string;
  restricted: boolean;
  assigneeId: string | null;
  reviewerId: string | null;
  createdBy: string | null;
}

const WHO_SEES = namedQuery("who of some people sees a project", (reader) =>
  reader
    .select({ id: person.id, administrator: person.administrator, role: membership.role })
    .from(person)
    .innerJoin(project, eq(project.id, sql.placeholder("projectId")))
    .leftJoin(
      membership,
      and(eq(membership.personId, person.id), eq(membership.projectId, project.id)),
    )
    .where(
      and(
        amongGiven(person.id, "personIds", "text"),
        isNull(person.endedAt),
        or(
          eq(person.administrator, true),
          eq(project.visibility, "everyone"),
          sql`${membership.role} is not null`,
        ),
      ),
    ),
);

/**
 * Of some people those who have an account and may see an item: `visibleTo` and `seesItem`, for
 * many people and one item.
 */
export async function whoSees(
  reader: Reader,
  seen: Seen,
  personIds: readonly string[],
): Promise<Set<string>> {
  if (personIds.length === 0) return new Set();
  const { projectId } = seen;
  const rows = await WHO_SEES(reader, { projectId, personIds: [...new Set(personIds)] });
  const ties = [seen.assigneeId, seen.reviewerId, seen.createdBy];
  const sees = rows.filter(
    ({ id, administrator, role }) =>
      !seen.restricted || administrator || role === "lead" || ties.includes(id),
  );
  return new Set(sees.map(({ id }) => id));
}
