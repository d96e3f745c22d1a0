import { decideReport, type GivenVerdict, type ReportCommand } from "@/core/intake/decide-report";
import { isRefusal } from "@/core/workflow/refusal";
import type { Transaction } from "@/db/connection";
import { Refused } from "../refused";
import type { ReportRow } from "./seen-report";
import { stateOfReport, storeReportEvents } from "./store";

/*
 * The one door that every change of a report goes through. Who comes in has entered its project and
 * locked it (`seen-report.ts`) and brings what the decision needs; the core decides, the events are
 * stored and told (`store.ts`), and the caller does what follows: letters, messages, the item.
 */

/**
 * Takes a command on a locked report through the door.
 * @param by null for a rule of the project, or for somebody outside
 * @returns the report after it
 * @throws Refused with the core's refusal
 */
export async function reportThroughDoor({
  tx,
  by,
  row,
  command,
  now,
}: {
  tx: Transaction;
  by: { personId: string } | null;
  row: ReportRow;
  command: ReportCommand;
  now: number;
}): Promise<ReportRow> {
  const context = { reportId: row.id, at: now, actorId: by?.personId ?? null };
  const events = decideReport(stateOfReport(row), command, context);
  if (isRefusal(events)) throw new Refused(events);
  if (events.length === 0) return row;
  return storeReportEvents(tx, row, events, reasonAfter(command));
}

/** The words that a command leaves as the reason why a report was declined. */
function reasonAfter(command: ReportCommand): string | null {
  if (command.kind === "undo verdict") return (command.last as GivenVerdict).before.declineReason;
  return command.kind === "judge" && command.verdict.kind === "decline"
    ? command.verdict.reason.trim()
    : null;
}
