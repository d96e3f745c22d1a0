import { and, asc, eq, gt, inArray, lte, or, sql } from "drizzle-orm";
import type { Cause } from "@/core/item/event";
import type { ScopeChange } from "@/core/plan/sprint-view";
import type { SprintBounds } from "@/core/plan/sprint";
import type { Reader } from "@/db/connection";
import { item, itemEvent, person, scopeReason, timeboxMembership } from "@/db/schema";
import { keyColumn } from "../item/key";
import { isSeen, seesAnywhere } from "../people/access";
import type { Viewer } from "../people/viewer";

/** So many changes are told, the latest of them. */
const MOST_TOLD = 300;

/** What made it where no person did it just so; nothing where a person planned it. */
const HOW: Partial<Record<Cause, string>> = {
  verdict: "accepted from a report",
  undo: "taken back",
  "follow-up": "by the process",
  trigger: "by the process",
  outside: "from outside",
  requester: "by who reported it",
};

/**
 * What came into a sprint behind its start and what went out of it, with who did it and how. Of what
 * somebody does not see it is said that it happened.
 */
export async function readScopeChanges(
  reader: Reader,
  viewer: Viewer,
  sprintId: string,
  { start, end }: SprintBounds,
): Promise<ScopeChange[]> {
  const entering = eq(itemEvent.seq, timeboxMembership.enteredSeq);
  const leaving = and(
    eq(itemEvent.at, timeboxMembership.toAt),
    or(
      and(eq(itemEvent.kind, "changed"), eq(itemEvent.field, "sprintId")),
      inArray(itemEvent.kind, ["withdrawn", "undone"]),
    ),
  );
  const rows = await reader
    .select({
      at: itemEvent.at,
      seq: itemEvent.seq,
      why: scopeReason.words,
      itemId: item.id,
      entered: sql<boolean>`${entering}`,
      made: sql<boolean>`${itemEvent.kind} = 'created'`,
      who: person.name,
      cause: itemEvent.cause,
      field: itemEvent.field,
      key: keyColumn,
      title: item.title,
      points: item.estimate,
      seen: isSeen(seesAnywhere(reader, viewer)),
    })
    .from(timeboxMembership)
    .innerJoin(
      itemEvent,
      and(eq(itemEvent.itemId, timeboxMembership.itemId), or(entering, leaving)),
    )
    .innerJoin(item, eq(item.id, timeboxMembership.itemId))
    .leftJoin(
      scopeReason,
      and(eq(scopeReason.itemId, itemEvent.itemId), eq(scopeReason.seq, itemEvent.seq)),
    )
    .leftJoin(person, eq(person.id, itemEvent.actorId))
    .where(
      and(
        eq(timeboxMembership.box, "sprint"),
        eq(timeboxMembership.boxId, sprintId),
        gt(itemEvent.at, start),
        lte(itemEvent.at, end),
      ),
    )
    .orderBy(sql`${itemEvent.at} desc`, asc(item.id))
    .limit(MOST_TOLD);
  return rows.map(({ itemId, entered, made, cause, key, title, points, seen, ...row }) => {
    const how = made ? (cause === "verdict" ? HOW.verdict! : "new") : (HOW[cause] ?? null);
    return {
      at: row.at,
      seq: row.seq,
      kind: entered ? "added" : "taken out",
      who: row.who ?? null,
      how,
      why: seen ? row.why : null,
      asked: row.field === "sprintId" && how === null,
      item: seen ? { id: itemId, key, title, points } : null,
    };
  });
}
