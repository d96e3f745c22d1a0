import { asc, eq, inArray } from "drizzle-orm";
import type { Term } from "@/core/item/terms/term";
import type { Reader } from "@/db/connection";
import { projectTerm } from "@/db/schema";

type Row = typeof projectTerm.$inferSelect;

const termOf = ({ projectId: _, ...term }: Row): Term => term;

/** What a project has said of its labels and parts. */
export async function loadTerms(reader: Reader, projectId: string): Promise<Term[]> {
  const rows = await reader
    .select()
    .from(projectTerm)
    .where(eq(projectTerm.projectId, projectId))
    .orderBy(asc(projectTerm.kind), asc(projectTerm.name));
  return rows.map(termOf);
}

/** The same of some projects, by project. */
export async function termsOfProjects(
  reader: Reader,
  projectIds: readonly string[],
): Promise<(projectId: string) => Term[]> {
  const rows = await reader
    .select()
    .from(projectTerm)
    .where(inArray(projectTerm.projectId, [...projectIds]));
  return (projectId) => rows.filter((row) => row.projectId === projectId).map(termOf);
}
