import { and, eq, notExists, sql } from "drizzle-orm";
import { transact } from "@/db/connection";
import { report, reportVerdict } from "@/db/schema";
import { dayStart, parseIsoDate } from "@/core/calendar/zone";
import { announce } from "../events/announce";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { newReport } from "./new-report";
import { receiveReports, takeBackReports } from "./store";
import { type ImportRequest } from "@/core/intake/request";

/**
 * Takes a part of a table into the queue, or takes a whole import back as far as nobody has judged
 * it.
 */
export async function importReports(
  viewer: Viewer,
  projectKey: string,
  request: ImportRequest,
  now = Date.now(),
): Promise<{ changed: number; kept: number }> {
  return transact(async (tx) => {
    const { project } = await enterProject({
      reader: tx,
      viewer,
      where: { key: projectKey },
      action: "judge report",
    });
    const own = and(eq(report.projectId, project.id), eq(report.importId, request.importId));
    if (request.kind === "import") {
      const [known] = await tx
        .select({ id: report.id })
        .from(report)
        .where(and(own, eq(report.importPart, request.part)))
        .limit(1);
      if (known) return { changed: 0, kept: request.reports.length };
      const { importId, part: importPart, reports } = request;
      const cameAt = (day: string | null) =>
        day === null ? now : Math.min(now, dayStart(parseIsoDate(day), project.zone));
      // Of one moment, they stand in the queue in the order of their ids: that of the file.
      await receiveReports(
        tx,
        reports.map(({ receivedOn, ...said }) =>
          newReport(
            project.id,
            { ...said, way: "table", importId, importPart },
            cameAt(receivedOn),
          ),
        ),
      );
      const data = { importId, reports: reports.length };
      await announce(tx, project.id, { kind: "reports imported", data }, now);
      return { changed: reports.length, kept: 0 };
    }
    const untouched = and(
      own,
      eq(report.status, "unjudged"),
      notExists(
        tx
          .select({ one: sql`1` })
          .from(reportVerdict)
          .where(eq(reportVerdict.reportId, report.id)),
      ),
    );
    const gone = await takeBackReports(tx, untouched!);
    const left = await tx.select({ id: report.id }).from(report).where(own);
    if (gone.length + left.length === 0) throw notFound("import");
    const data = { importId: request.importId, reports: gone.length };
    await announce(tx, project.id, { kind: "import taken back", data }, now);
    return { changed: gone.length, kept: left.length };
  });
}
