import type { ReportStanding } from "@/core/intake/report";
import {
  applyReportEvent,
  standingOf,
  type ReportEvent,
  type ReportState,
} from "@/core/intake/report-history";
import { and, eq, sql, type SQL } from "drizzle-orm";
import type { Transaction } from "@/db/connection";
import { report, reportEvent } from "@/db/schema";
import { announce } from "../events/announce";
import { renamedIn } from "../item/terms/renamed-in";
import type { Renaming } from "../item/terms/renaming";
import type { ReportRow } from "./seen-report";

/** What a report's row says of its history. */
export const stateOfReport = (row: ReportRow): ReportState => ({
  standing: standingOf(row),
  returnedAt: row.returnedAt,
  version: row.version,
  seq: row.seq,
});

/**
 * Stores events of a report that is there: the row, the history, and what is told of them. With
 * `receiveReports` the one place that writes any of them.
 * @param declineReason the words that a decline leaves; only where the report stands elsewhere
 */
export async function storeReportEvents(
  tx: Transaction,
  row: ReportRow,
  events: readonly ReportEvent[],
  declineReason: string | null,
): Promise<ReportRow> {
  const before = stateOfReport(row);
  let after = before;
  for (const event of events) after = applyReportEvent(after, event);
  const { standing, ...rest } = after;
  const moved = after.version !== before.version;
  const said = events.findLast((event) => event.kind === "parts said");
  const columns = {
    ...rest,
    ...(moved ? { ...standing, declineReason } : {}),
    ...(said ? { parts: said.new } : {}),
  };
  await tx.update(report).set(columns).where(eq(report.id, row.id));
  await tx.insert(reportEvent).values(events.map(reportEventRow));
  const kinds = [...new Set(events.map((e) => e.kind))];
  const happening = { kind: "report changed" as const, data: { reportId: row.id, kinds } };
  await announce(tx, row.projectId, happening, events[0].at);
  return { ...row, ...columns };
}

/** A report that has not come in yet. */
export type NewReport = Omit<typeof report.$inferInsert, "seq" | "version" | "returnedAt"> &
  ReportStanding;

/** Stores reports that come in, each with the beginning of its history. Whoever calls tells it. */
export async function receiveReports(
  tx: Transaction,
  reports: readonly NewReport[],
): Promise<ReportRow[]> {
  const rows = await tx
    .insert(report)
    .values(reports.map((r) => ({ ...r, returnedAt: null, version: 1, seq: 1 })))
    .returning();
  await tx.insert(reportEvent).values(rows.map((row) => reportEventRow(receipt(row))));
  return rows;
}

/** Takes back reports that nobody has touched, with their history. */
export const takeBackReports = (tx: Transaction, which: SQL): Promise<{ id: string }[]> =>
  tx.delete(report).where(which).returning({ id: report.id });

/**
 * Calls a part of the product otherwise on all reports of a project that were said to be about it; their
 * histories keep what was said.
 */
export async function renameOnReports(
  tx: Transaction,
  { projectId, from, to }: Renaming,
): Promise<void> {
  await tx
    .update(report)
    .set({ parts: renamedIn(report.parts, from, to) })
    .where(and(eq(report.projectId, projectId), sql`${report.parts} ? ${from}::text`));
}

/** The beginning of a report's history, as it came in. */
export const receipt = (
  row: Pick<ReportRow, "id" | "receivedAt" | "way"> & ReportStanding,
): ReportEvent => ({
  kind: "received",
  new: { way: row.way, standing: standingOf(row) },
  reportId: row.id,
  seq: 1,
  at: row.receivedAt,
  actorId: null,
});

export const reportEventRow = (event: ReportEvent): typeof reportEvent.$inferInsert => {
  const { reportId, seq, at, actorId, kind, ...data } = event;
  return { reportId, seq, at, actorId, kind, data };
};

/** The event of a stored row: what was written by `reportEventRow` is read back as it was. */
export const reportEventOf = (row: typeof reportEvent.$inferSelect): ReportEvent => {
  const { data, ...rest } = row;
  return { ...rest, ...(data as object) } as ReportEvent;
};
