import { and, asc, eq, inArray, sql } from "drizzle-orm";
import { factsIn, type Condition } from "@/core/condition/condition";
import { withFormerTerms } from "@/core/item/terms/rename-value";
import { TERM_FIELDS, type Term } from "@/core/item/terms/term";
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

/** A condition about items of some projects, in which words that were renamed are meant too. */
export async function knowingFormerTerms(
  reader: Reader,
  projectIds: readonly string[],
  condition: Condition,
): Promise<Condition> {
  const facts = factsIn(condition);
  if (!Object.values(TERM_FIELDS).some((fact) => facts.has(fact))) return condition;
  const renamed = await reader
    .select()
    .from(projectTerm)
    .where(
      and(
        inArray(projectTerm.projectId, [...projectIds]),
        sql`${projectTerm.earlier} <> '[]'::jsonb`,
      ),
    );
  return withFormerTerms(condition, renamed);
}
