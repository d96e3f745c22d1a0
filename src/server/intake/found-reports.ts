import { and, desc, eq, gt, gte, inArray, isNull, lt, ne, sql, type SQL } from "drizzle-orm";
import {
  FOUND_PAGE,
  JUDGED,
  type FoundQuery,
  type FoundReport,
  type FoundReports,
  type GivenLately,
} from "@/core/intake/found-report";
import type { VerdictKind } from "@/core/intake/verdict";
import type { AnyPgColumn } from "drizzle-orm/pg-core";
import { database } from "@/db/connection";
import { person, report, reportVerdict } from "@/db/schema";
import { enterProject, seesReport } from "../people/access";
import type { Viewer } from "../people/viewer";
import { Refused } from "../refused";
import { goesOutOf } from "../plan/goes-out";
import { seenKeysOf } from "./desk-items";
import { seenReport } from "./seen-report";

/** How long one's own verdicts are undone by a key. */
const GIVEN_MS = 12 * 3_600_000;
const GIVEN = 30;

/**
 * Finds reports of a project, whatever became of them, by reference, title, words or mail address;
 * without words, those that were judged.
 * @throws Refused where the reader may not read the project's intake
 */
export async function findReports(
  viewer: Viewer,
  projectKey: string,
  query: FoundQuery,
): Promise<FoundReports> {
  const db = database();
  const { project: at } = await enterProject({
    reader: db,
    viewer,
    where: { key: projectKey },
    action: "read intake",
  });
  const { words, way, team, verdict, since, until, after, before } = query;
  const standing = standingVerdict();
  const last = sql`coalesce(${standing.at}, ${report.receivedAt})`;
  const rows = await db
    .select({
      id: report.id,
      reference: report.reference,
      title: report.title,
      receivedAt: report.receivedAt,
      status: report.status,
      way: report.way,
      teamId: report.teamId,
      version: report.version,
      itemId: report.itemId,
      verdictId: standing.id,
      kind: standing.kind,
      judgedAt: standing.at,
      by: person.name,
      rest: sql<number>`count(*) over ()`.mapWith(Number),
    })
    .from(report)
    .leftJoinLateral(standing, sql`true`)
    .leftJoin(person, eq(person.id, standing.byId))
    .where(
      and(
        eq(report.projectId, at.id),
        seesReport(db, viewer),
        words !== "" ? matching(words) : verdict ? undefined : inArray(report.status, [...JUDGED]),
        verdict && sql`${standing.kind} = ${verdict}`,
        since === undefined ? undefined : gte(standing.at, since),
        until === undefined ? undefined : lt(standing.at, until),
        way && eq(report.way, way),
        team ? eq(report.teamId, team) : undefined,
        after && before !== undefined
          ? sql`(${last}, ${report.id}) < (${sql.param(before, report.receivedAt)}::timestamptz, ${after}::uuid)`
          : undefined,
      ),
    )
    .orderBy(desc(last), desc(report.id))
    .limit(FOUND_PAGE);
  const itemIds = rows.map((r) => r.itemId);
  const [keys, goesOut] = await Promise.all([seenKeysOf(viewer, itemIds), goesOutOf(db, itemIds)]);
  return {
    rows: rows.map(({ itemId, verdictId, kind, judgedAt, by, rest: _, ...row }): FoundReport => {
      return {
        ...row,
        verdict: verdictId === null ? null : { id: verdictId, kind: kind!, by, at: judgedAt! },
        itemKey: itemId === null ? null : (keys.get(itemId) ?? null),
        goesOut: itemId !== null && keys.has(itemId) ? (goesOut.get(itemId) ?? null) : null,
      };
    }),
    rest: (rows[0]?.rest ?? 0) - rows.length,
  };
}

/** The last verdict on a report that nobody has undone. */
export const standingVerdict = () =>
  database()
    .select({
      id: reportVerdict.id,
      kind: sql<VerdictKind>`${reportVerdict.verdict} ->> 'kind'`.as("kind"),
      at: reportVerdict.at,
      byId: reportVerdict.byId,
    })
    .from(reportVerdict)
    .where(and(eq(reportVerdict.reportId, report.id), isNull(reportVerdict.undoneAt)))
    .orderBy(desc(reportVerdict.at))
    .limit(1)
    .as("standing");

/** Reports that hold given words, in one of the ways in which people remember a report. */
function matching(words: string): SQL {
  const within = (text: AnyPgColumn) => sql`position(lower(${words}) in lower(${text})) > 0`;
  return sql`(
    to_tsvector('english', ${report.title} || ' ' || ${report.happened}) @@ websearch_to_tsquery('english', ${words})
    or ${within(report.title)}
    or ${within(report.reference)}
    or ${within(report.mail)}
  )`;
}

/** Where a report of this reference is, for those who may read it; null where there is none. */
export async function reportByReference(
  viewer: Viewer,
  reference: string,
): Promise<{ id: string; projectKey: string } | null> {
  const [found] = await database()
    .select({ id: report.id })
    .from(report)
    .where(eq(report.reference, reference.trim().toUpperCase()));
  if (!found) return null;
  try {
    const { access } = await seenReport(viewer, found.id, "read intake");
    return { id: found.id, projectKey: access.project.key };
  } catch (error) {
    if (error instanceof Refused) return null;
    throw error;
  }
}

/** One's own verdicts of the last hours that stand, the latest first. */
export async function givenLately(
  viewer: Viewer,
  projectId: string,
  now: number,
): Promise<GivenLately[]> {
  return database()
    .select({ reportId: reportVerdict.reportId, verdictId: reportVerdict.id })
    .from(reportVerdict)
    .innerJoin(report, eq(report.id, reportVerdict.reportId))
    .where(
      and(
        eq(report.projectId, projectId),
        eq(reportVerdict.byId, viewer.personId),
        isNull(reportVerdict.undoneAt),
        // Not those that an answer or a day has ended since.
        ne(report.status, "unjudged"),
        gt(reportVerdict.at, now - GIVEN_MS),
      ),
    )
    .orderBy(desc(reportVerdict.at))
    .limit(GIVEN);
}
