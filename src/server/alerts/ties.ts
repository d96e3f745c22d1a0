import { and, eq, inArray, isNull, or, sql } from "drizzle-orm";
import type { Happened } from "@/core/alerts/happened";
import { STANDARD_RULES, type Ties } from "@/core/alerts/standard-rules";
import type { Duty } from "@/core/people/duty";
import type { ItemSnapshot } from "@/core/item/fields";
import type { Reader } from "@/db/connection";
import { item, itemLink, showing, shownItem, teamMember } from "@/db/schema";
import { namedSql } from "@/db/statement";
import { dutyHoldersNamed } from "../people/duties";
import { TERM_FIELDS, TERM_KINDS } from "@/core/item/terms/term";
import { termTarget } from "./follow";

const only = (id: string | null): string[] => (id === null ? [] : [id]);

/** Who has what to do with an item, as far as what happened can concern them. */
export async function tiesTo(
  reader: Reader,
  of: ItemSnapshot,
  happened: readonly Happened[],
): Promise<Ties> {
  const comes = (kind: Happened["kind"]) => happened.some((one) => one.kind === kind);
  const named = (wanted: Duty) => dutyHoldersNamed(reader, of.projectId, wanted);
  const [followers, near, testers, reviewing, showed] = await Promise.all([
    followersOf(reader, of),
    STANDARD_RULES.near.happens.some(comes) ? nearOwners(reader, of) : [],
    comes("for test") ? named("tests") : [],
    of.reviewerId === null && comes("for review") ? named("reviews") : only(of.reviewerId),
    comes("accepted") || comes("something missing") ? whoShowed(reader, of.id) : [],
  ]);
  return {
    assignee: only(of.assigneeId),
    reviewer: only(of.reviewerId),
    maker: only(of.createdBy),
    reviewing,
    testers,
    followers,
    showed,
    near,
  };
}

/** Who showed an item to somebody. */
async function whoShowed(reader: Reader, itemId: string): Promise<string[]> {
  const rows = await reader
    .selectDistinct({ id: showing.askedBy })
    .from(showing)
    .innerJoin(shownItem, eq(shownItem.showingId, showing.id))
    .where(and(eq(shownItem.itemId, itemId), isNull(showing.revokedAt)));
  return rows.map(({ id }) => id);
}

/** Who follows an item itself, one above it, a label of it or a part that it is about; not who stopped following it. */
async function followersOf(reader: Reader, of: ItemSnapshot): Promise<string[]> {
  const above = await itemsAbove(reader, of.parentId);
  const followed = [
    { kind: "item", target: of.id },
    ...[of.id, ...above].map((target) => ({ kind: "below", target })),
    ...followedTerms(of),
  ];
  const rows = await FOLLOWERS(reader, [
    followed.map(({ kind }) => kind),
    followed.map(({ target }) => target),
  ]);
  const stopped = new Set(
    rows.filter(({ kind, on }) => kind === "item" && !on).map(({ personId }) => personId),
  );
  return [...new Set(rows.filter(({ on }) => on).map(({ personId }) => personId))].filter(
    (id) => !stopped.has(id),
  );
}

/** Its labels and parts, as they are followed. */
const followedTerms = (of: ItemSnapshot): { kind: string; target: string }[] =>
  TERM_KINDS.flatMap((kind) =>
    of[TERM_FIELDS[kind]].map((name) => ({ kind, target: termTarget(of.projectId, name) })),
  );

const FOLLOWERS = namedSql<{ personId: string; kind: string; on: boolean }>(
  "who follows one of several things",
  `select f.person_id as "personId", f.kind, f."on"
   from unnest($1::text[], $2::text[]) as followed(kind, target)
   join follow f on f.kind = followed.kind and f.target = followed.target`,
);

/** So many levels lie above an item at most. */
const MOST_ABOVE = 4;

async function itemsAbove(reader: Reader, parentId: string | null): Promise<string[]> {
  const above: string[] = [];
  let next = parentId;
  while (next !== null && above.length < MOST_ABOVE) {
    above.push(next);
    const [row] = await reader
      .select({ parentId: item.parentId })
      .from(item)
      .where(eq(item.id, next));
    next = row?.parentId ?? null;
  }
  return above;
}

/** Who has the item in hand that it is under, or one that it is linked to and that has not ended. */
async function nearOwners(reader: Reader, of: ItemSnapshot): Promise<string[]> {
  const ids = reader
    .select({ id: itemLink.toItemId })
    .from(itemLink)
    .where(eq(itemLink.fromItemId, of.id))
    .union(
      reader.select({ id: itemLink.fromItemId }).from(itemLink).where(eq(itemLink.toItemId, of.id)),
    );
  const rows = await reader
    .selectDistinct({ id: item.assigneeId })
    .from(item)
    .where(
      and(
        or(
          of.parentId === null ? undefined : eq(item.id, of.parentId),
          sql`${item.id} = any(array(${ids}))`,
        ),
        sql`${item.assigneeId} is not null`,
        sql`${item.stateKind} <> 'finished' and ${item.withdrawnAt} is null`,
      ),
    );
  return rows.flatMap(({ id }) => only(id));
}

/** Who belongs to some teams, by team. */
export async function membersOfTeams(
  reader: Reader,
  teamIds: readonly string[],
): Promise<(teamId: string) => readonly string[]> {
  if (teamIds.length === 0) return () => [];
  const rows = await reader
    .select()
    .from(teamMember)
    .where(inArray(teamMember.teamId, [...teamIds]));
  return (teamId) => rows.filter((row) => row.teamId === teamId).map((row) => row.personId);
}
