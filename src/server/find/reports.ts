import { and, desc, eq, inArray, or, sql } from "drizzle-orm";
import type { FoundReport } from "@/core/find/found";
import type { Fit } from "@/core/find/how-well";
import type { Wanted } from "@/core/find/wanted";
import type { Reader } from "@/db/connection";
import { project, report } from "@/db/schema";
import { seesReport } from "../people/access";
import type { Viewer } from "../people/viewer";
import { beginsSo, excerpt, excerptOf, hasAllIn, hasPartsIn, hasWords } from "./words";

const DOCUMENT = sql`to_tsvector('english', ${report.title} || ' ' || ${report.happened})`;

/** Reports whose reference, title or words fit; what is called so first, then the latest. */
export async function findReports(
  reader: Reader,
  viewer: Viewer,
  { wanted, projectIds, limit }: { wanted: Wanted; projectIds: readonly string[]; limit: number },
): Promise<FoundReport[]> {
  if (wanted.words.length === 0 || projectIds.length === 0) return [];
  const { reference } = wanted;
  const referred = reference === null ? undefined : beginsSo(report.reference, wanted);
  const fit = sql<Fit>`case ${
    referred ? sql`when ${report.reference} = ${reference} then 0 when ${referred} then 1` : sql``
  } when ${beginsSo(report.title, wanted)} then 1 when ${hasAllIn(report.title, wanted)} then 2 else 4 end`;
  const rows = await reader
    .select({
      id: report.id,
      reference: report.reference,
      projectKey: project.key,
      title: report.title,
      status: report.status,
      receivedAt: report.receivedAt,
      fit: fit.mapWith(Number).as("fit"),
      excerpt: excerpt(report.happened, wanted),
    })
    .from(report)
    .innerJoin(project, eq(project.id, report.projectId))
    .where(
      and(
        inArray(report.projectId, [...projectIds]),
        seesReport(reader, viewer),
        referred ?? or(hasWords(DOCUMENT, wanted), hasPartsIn(report.title, wanted)),
      ),
    )
    .orderBy(sql`fit`, desc(report.receivedAt), desc(report.id))
    .limit(limit);
  return rows.map(({ excerpt: marked, ...row }) => ({
    ...row,
    fit: row.fit as Fit,
    excerpt: row.fit === 4 ? excerptOf(marked) : [],
  }));
}
