import { dayNumber } from "@/core/calendar/zone";
import type { ReportStanding } from "@/core/intake/report";
import type { Verdict } from "@/core/intake/verdict";
import type { Transaction } from "@/db/connection";
import { reportVerdict } from "@/db/schema";
import { reportThroughDoor } from "./door";
import type { ReportRow } from "./seen-report";

interface Given {
  id: string;
  verdict: Verdict;
  /** The item that accepting made, or that merging points to. */
  itemId: string | null;
  /** In the project's zone; days are counted by it. */
  zone: string;
  /** The version that whoever judges has seen; null for a rule. */
  seenVersion: number | null;
  tookMs?: number | null;
  now: number;
}

/** Where a report stands, with the words that a decline gave as its reason. */
export const fullStandingOf = (row: ReportRow): ReportStanding => {
  const { status, itemId, parkedUntil, parkedItemId, declineReason } = row;
  return { status, itemId, parkedUntil, parkedItemId, declineReason };
};

/**
 * Gives a verdict on a locked report, by somebody or by a rule of its project, and keeps it so that
 * it can be undone.
 * @returns the report as it stands after it
 */
export async function giveVerdict(
  tx: Transaction,
  by: { personId: string } | null,
  row: ReportRow,
  given: Given,
): Promise<ReportRow> {
  const { id, verdict, itemId, zone, seenVersion, tookMs, now } = given;
  const today = dayNumber(now, zone);
  const command = { kind: "judge" as const, verdictId: id, verdict, itemId, today, seenVersion };
  const after = await reportThroughDoor({ tx, by, row, command, now });
  await tx.insert(reportVerdict).values({
    id,
    reportId: row.id,
    verdict,
    before: fullStandingOf(row),
    after: fullStandingOf(after),
    byId: by?.personId ?? null,
    at: now,
    tookMs,
  });
  return after;
}
