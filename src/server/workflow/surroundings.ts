import { and, eq, ne, sql } from "drizzle-orm";
import type { CheckSurroundings } from "@/core/workflow/finding";
import type { Reader } from "@/db/connection";
import { board, columnState, membership, teamMember } from "@/db/schema";
import { loadVocabulary } from "../condition/vocabulary";

/** What the check of a workflow needs to know of its project. */
export async function checkSurroundings(
  reader: Reader,
  projectId: string,
): Promise<CheckSurroundings> {
  const vocabulary = await loadVocabulary(reader, projectId);
  const inProject = and(eq(membership.projectId, projectId), ne(membership.role, "observer"));
  const roles = await reader
    .select({ role: membership.role, n: sql<number>`count(*)::int` })
    .from(membership)
    .where(inProject)
    .groupBy(membership.role);
  const teams = await reader
    .select({ teamId: teamMember.teamId, n: sql<number>`count(*)::int` })
    .from(teamMember)
    .innerJoin(membership, eq(membership.personId, teamMember.personId))
    .where(inProject)
    .groupBy(teamMember.teamId);
  const shown = await reader
    .select({ id: columnState.stateId })
    .from(columnState)
    .innerJoin(board, eq(board.id, columnState.boardId))
    .where(eq(board.projectId, projectId));
  return {
    vocabulary,
    peopleOfTeam: Object.fromEntries(teams.map((t) => [t.teamId, t.n])),
    leads: roles.find((r) => r.role === "lead")?.n ?? 0,
    workers: roles.reduce((sum, r) => sum + r.n, 0),
    shownStates: shown.map((s) => s.id),
  };
}
