import { and, eq, isNull, or, sql } from "drizzle-orm";
import type { Concern } from "@/core/alerts/concern";
import type { Condition } from "@/core/condition/condition";
import { storedLook } from "@/core/view/look";
import type { Reader } from "@/db/connection";
import { board, follow, person, view } from "@/db/schema";
import { namedQuery } from "@/db/statement";
import type { conditionAsker, Occurrence } from "./condition-asker";

const FOLLOWED = namedQuery("views of a project that are followed", (reader) =>
  reader
    .select({ view, name: person.name, administrator: person.administrator, by: person.id })
    .from(follow)
    // What is followed is held as words; that of a view is its id.
    .innerJoin(view, eq(follow.target, sql`${view.id}::text`))
    .innerJoin(person, eq(person.id, follow.personId))
    .where(
      and(
        eq(follow.kind, "view"),
        eq(follow.on, true),
        isNull(person.endedAt),
        isNull(view.putAwayAt),
        eq(view.groundId, sql.placeholder("projectId")),
        or(isNull(view.ownerId), eq(view.shown, true), eq(view.ownerId, person.id)),
      ),
    ),
);

/**
 * Whom something concerns because they follow a view of the project that shows the item now, and have
 * not stopped following the item itself. A view that its person does not see any more tells nothing;
 * nor does one that is put away.
 */
export async function viewConcerns(
  reader: Reader,
  occurrence: Occurrence,
  asks: ReturnType<typeof conditionAsker>,
): Promise<Map<string, Concern>> {
  const { of, happened, doers } = occurrence;
  const rows = await FOLLOWED(reader, { projectId: of.projectId });
  const concerns = new Map<string, Concern>();
  if (rows.length === 0) return concerns;
  const stopped = await stoppedFollowing(reader, of.id);
  const scopes = await boardScopes(reader, of.projectId);
  for (const { view: row, by: personId, name, administrator } of rows) {
    if (doers.has(personId) || stopped.has(personId) || concerns.has(personId)) continue;
    const look = storedLook(row.look);
    const shows: Condition = {
      kind: "all",
      of: [...(scopes.get(look.board ?? "") ?? []), look.scope, look.filter],
    };
    if (!(await asks({ personId, name, administrator }, shows))) continue;
    concerns.set(personId, { rules: ["follows"], seqs: happened.map(({ seq }) => seq) });
  }
  return concerns;
}

/** What the boards of a project are about, by their ids. */
async function boardScopes(reader: Reader, projectId: string): Promise<Map<string, Condition[]>> {
  const rows = await reader
    .select({ id: board.id, scope: board.scope })
    .from(board)
    .where(eq(board.projectId, projectId));
  return new Map(rows.map(({ id, scope }) => [id, scope === null ? [] : [scope]]));
}

async function stoppedFollowing(reader: Reader, itemId: string): Promise<Set<string>> {
  const rows = await reader
    .select({ personId: follow.personId })
    .from(follow)
    .where(and(eq(follow.kind, "item"), eq(follow.target, itemId), eq(follow.on, false)));
  return new Set(rows.map(({ personId }) => personId));
}
