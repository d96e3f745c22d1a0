import { asc, inArray } from "drizzle-orm";
import { replayReport } from "@/core/intake/report-history";
import { same } from "@/core/workflow/same";
import { database } from "@/db/connection";
import { report, reportEvent } from "@/db/schema";
import { reportEventOf, stateOfReport } from "./store";

const BATCH = 500;

/** Proves that what is stored of reports agrees: replaying each one's history gives its row. */
export async function checkReports(): Promise<{ reports: number; findings: string[] }> {
  const db = database();
  const ids = (await db.select({ id: report.id }).from(report).orderBy(report.id)).map((r) => r.id);
  const findings: string[] = [];
  for (let i = 0; i < ids.length; i += BATCH) {
    const batch = ids.slice(i, i + BATCH);
    await db.transaction(
      async (tx) => {
        const rows = await tx.select().from(report).where(inArray(report.id, batch));
        const events = await tx
          .select()
          .from(reportEvent)
          .where(inArray(reportEvent.reportId, batch))
          .orderBy(asc(reportEvent.reportId), asc(reportEvent.seq));
        for (const row of rows) {
          const own = events.filter((e) => e.reportId === row.id).map(reportEventOf);
          const finding = disagreement(stateOfReport(row), own);
          if (finding) findings.push(`report ${row.id}: ${finding}`);
        }
      },
      { isolationLevel: "repeatable read", accessMode: "read only" },
    );
  }
  return { reports: ids.length, findings };
}

function disagreement(
  is: ReturnType<typeof stateOfReport>,
  history: Parameters<typeof replayReport>[0],
): string | null {
  try {
    return same(is, replayReport(history)) ? null : "its history says otherwise than its row";
  } catch (error) {
    return (error as Error).message;
  }
}
