import { and, eq, gte, inArray, isNull, ne, notExists, sql } from "drizzle-orm";
import type { CheckSurroundings } from "@/core/workflow/finding";
import type { StateId } from "@/core/workflow/state";
import type { Reader } from "@/db/connection";
import { columnState, itemType, membership, state, teamMember } from "@/db/schema";
import { countInStates } from "../item/count";
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
  return {
    vocabulary,
    peopleOfTeam: Object.fromEntries(teams.map((t) => [t.teamId, t.n])),
    leads: roles.find((r) => r.role === "lead")?.n ?? 0,
    workers: roles.reduce((sum, r) => sum + r.n, 0),
    unshown: await unshownStates(reader, projectId),
  };
}

/**
 * The states in progress that no board shows, of the workflows that some type follows which stands
 * on its own, with how many items are in each.
 */
async function unshownStates(reader: Reader, projectId: string): Promise<Record<StateId, number>> {
  const shown = reader
    .select({ one: sql`1` })
    .from(columnState)
    .where(eq(columnState.stateId, state.id));
  const followed = reader
    .select({ id: itemType.workflowId })
    .from(itemType)
    .where(and(eq(itemType.projectId, projectId), gte(itemType.level, 1)));
  const rows = await reader
    .select({ id: state.id })
    .from(state)
    .where(
      and(
        inArray(state.workflowId, followed),
        isNull(state.removedIn),
        inArray(state.kind, ["waiting", "working"]),
        notExists(shown),
      ),
    );
  const items = await countInStates(
    reader,
    rows.map((r) => r.id),
  );
  return Object.fromEntries(rows.map((r) => [r.id, items.get(r.id) ?? 0]));
}
