import { and, eq, inArray, sql, type SQL, type SQLWrapper } from "drizzle-orm";
import type { Votes, VoteSide } from "@/core/item/vote";
import { database, type Reader } from "@/db/connection";
import { itemVote, report, reportFollower } from "@/db/schema";
import { loadRules } from "../intake/rules";
import { reporterCounts } from "../intake/reporter-counts";
import type { Viewer } from "../people/viewer";
import { invalid, notFound } from "../refused";
import { seeByKey } from "./by-key";

/** What votes and reports come to, as SQL: `votesTotal`. */
export const votesColumn = (itemId: SQLWrapper): SQL => sql`(
  (select coalesce(sum(case ${itemVote.side} when 'for' then 1 else -1 end), 0)
    from ${itemVote} where ${itemVote.itemId} = ${itemId})
  + (select count(distinct ${report.id}) + count(${reportFollower.id})
    from ${report} left join ${reportFollower} on ${reportFollower.reportId} = ${report.id}
    where ${report.itemId} = ${itemId}))::float8`;

/** What people said for and against some items; who voted for none is not asked. */
export async function readVotes(
  reader: Reader,
  viewer: Pick<Viewer, "personId">,
  ids: readonly string[],
): Promise<(id: string) => Votes> {
  const me = viewer.personId;
  const sides = (side: VoteSide) =>
    sql<number>`(count(*) filter (where ${itemVote.side} = ${side}))::int`;
  const rows =
    ids.length === 0
      ? []
      : await reader
          .select({
            itemId: itemVote.itemId,
            for: sides("for"),
            against: sides("against"),
            mine: sql<VoteSide | null>`max(${itemVote.side}) filter (where ${itemVote.personId} = ${me})`,
          })
          .from(itemVote)
          .where(inArray(itemVote.itemId, [...ids]))
          .groupBy(itemVote.itemId);
  const reports = await reporterCounts(reader, ids);
  const byItem = new Map(rows.map(({ itemId, ...votes }) => [itemId, votes]));
  return (id) => ({
    for: 0,
    against: 0,
    mine: null,
    ...byItem.get(id),
    reports: reports.get(id) ?? 0,
  });
}

/**
 * Votes for an item, against it where its project counts that, or takes one's vote back.
 * @throws Refused
 */
export async function castVote(
  viewer: Viewer,
  key: string,
  side: VoteSide | null,
  now = Date.now(),
): Promise<void> {
  const db = database();
  const { before: known, access } = await seeByKey(db, viewer, key, "comment item");
  if (known.withdrawnAt !== null) throw notFound("item");
  const { project } = access;
  const { personId } = viewer;
  if (side === null) {
    await db
      .delete(itemVote)
      .where(and(eq(itemVote.itemId, known.id), eq(itemVote.personId, personId)));
    return;
  }
  if (side === "against" && !(await countsAgainst(db, project.id)))
    throw invalid(
      `${project.name} counts votes for its items only.`,
      "A lead can let it count votes against them too: Intake, Worth, the model.",
    );
  await db
    .insert(itemVote)
    .values({ itemId: known.id, personId, side, at: now })
    .onConflictDoUpdate({ target: [itemVote.itemId, itemVote.personId], set: { side, at: now } });
}

/** Whether a project counts votes against its items. */
export const countsAgainst = async (reader: Reader, projectId: string): Promise<boolean> =>
  (await loadRules(reader, projectId)).scoring.votesAgainst === true;
