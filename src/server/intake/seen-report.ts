import { and, eq } from "drizzle-orm";
import type { Action } from "@/core/people/authorise";
import { database, type Reader, type Transaction } from "@/db/connection";
import { report } from "@/db/schema";
import { enterProject, seesReport, type ProjectAccess } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";

export type ReportRow = typeof report.$inferSelect;

interface SeenReport {
  row: ReportRow;
  access: ProjectAccess;
}

/**
 * A report that somebody names by its id, for an action in its project.
 * @throws Refused "not found" when there is none that they may see, "not allowed" when their role
 *   lacks the action
 */
export async function seenReport(
  viewer: Viewer,
  reportId: string,
  action: Action,
  reader: Reader = database(),
): Promise<SeenReport> {
  const [row] = await reader
    .select()
    .from(report)
    .where(and(eq(report.id, reportId), seesReport(reader, viewer)));
  return entered(reader, viewer, row, action);
}

/** The same, locked until the transaction ends. */
export async function lockSeenReport(
  tx: Transaction,
  viewer: Viewer,
  reportId: string,
  action: Action,
): Promise<SeenReport> {
  const [row] = await tx
    .select()
    .from(report)
    .where(and(eq(report.id, reportId), seesReport(tx, viewer)))
    .for("update");
  return entered(tx, viewer, row, action);
}

/** A report that was found already, locked until the transaction ends. */
export async function lockReport(tx: Transaction, reportId: string): Promise<ReportRow> {
  const [row] = await tx.select().from(report).where(eq(report.id, reportId)).for("update");
  if (!row) throw notFound("report");
  return row;
}

async function entered(
  reader: Reader,
  viewer: Viewer,
  row: ReportRow | undefined,
  action: Action,
): Promise<SeenReport> {
  if (!row) throw notFound("report");
  // Of a project that they may not see nothing is told, not even its name.
  const access = await enterProject({
    reader,
    viewer,
    where: { id: row.projectId },
    action,
    asked: "report",
  });
  return { row, access };
}
