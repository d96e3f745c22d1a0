import { and, eq, gte, isNull, lt, min, sql } from "drizzle-orm";
import type { Instant } from "@/core/calendar/instant";
import { triageFigures, type TriageFigures } from "@/core/intake/triage-figures";
import { database } from "@/db/connection";
import { report, reportVerdict } from "@/db/schema";
import { standingVerdict } from "./found-reports";

/**
 * How triage of a project went in a period. Figures of the project: they count everything and name
 * nothing.
 */
export async function readTriageFigures(
  project: { id: string; zone: string },
  period: { from: Instant; to: Instant },
): Promise<TriageFigures> {
  const db = database();
  const standing = standingVerdict();
  const first = db
    .select({ reportId: reportVerdict.reportId, at: min(reportVerdict.at).as("first_at") })
    .from(reportVerdict)
    .where(isNull(reportVerdict.undoneAt))
    .groupBy(reportVerdict.reportId)
    .as("first");
  const [came, judged, firsts] = await Promise.all([
    db
      .select({ way: report.way, at: report.receivedAt })
      .from(report)
      .where(
        and(
          eq(report.projectId, project.id),
          gte(report.receivedAt, period.from),
          lt(report.receivedAt, period.to),
        ),
      ),
    db
      .select({ kind: standing.kind, at: standing.at })
      .from(report)
      .innerJoinLateral(standing, sql`true`)
      .where(
        and(
          eq(report.projectId, project.id),
          gte(standing.at, period.from),
          lt(standing.at, period.to),
        ),
      ),
    db
      .select({ receivedAt: report.receivedAt, at: first.at })
      .from(report)
      .innerJoin(first, eq(first.reportId, report.id))
      .where(
        and(
          eq(report.projectId, project.id),
          gte(first.at, sql.param(period.from, report.receivedAt)),
          lt(first.at, sql.param(period.to, report.receivedAt)),
        ),
      ),
  ]);
  return triageFigures(
    { came, judged, took: firsts.map((f) => Math.max(0, f.at! - f.receivedAt)) },
    period,
    project.zone,
  );
}
