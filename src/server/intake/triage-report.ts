import { and, desc, eq, isNull } from "drizzle-orm";
import { afterVerdict, type VerdictResult } from "@/core/intake/verdict";
import { tellingOf } from "@/core/intake/letters";
import type { Progress } from "@/core/intake/report";
import { dealtWith } from "@/core/intake/decide-report";
import { isRefusal } from "@/core/workflow/refusal";
import { transact, type Transaction } from "@/db/connection";
import { item, reportMessage, reportVerdict, state } from "@/db/schema";
import { acceptReport, withdrawAccepted } from "./accept";
import { recordCommand } from "../item/command-key";
import { seenItem } from "../item/seen-item";
import { takeBackLetters, writeToRequester } from "../mail/write";
import type { ProjectAccess } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid, Refused } from "../refused";
import { reportThroughDoor } from "./door";
import { fullStandingOf, giveVerdict } from "./give-verdict";
import type { VerdictBody } from "@/core/intake/request";
import { lockSeenReport, type ReportRow } from "./seen-report";

/**
 * Gives a verdict on a report: one transaction for the report, its item, the requester's page and
 * the queue.
 */
export async function triageReport(
  viewer: Viewer,
  reportId: string,
  body: Omit<VerdictBody, "tookMs"> & { tookMs?: number | null },
): Promise<VerdictResult> {
  return transact(async (tx) => {
    const { row, access } = await lockSeenReport(tx, viewer, reportId, "judge report");
    if (
      !(await recordCommand(tx, body.commandId, viewer.personId, {
        what: `${body.verdict.kind} ${row.id}`,
      }))
    )
      return resultOf(tx, row, access, body.commandId);
    if (row.version !== body.seenVersion) throw new Refused(dealtWith());
    const now = Date.now();
    const { verdict, commandId, seenVersion, tookMs } = body;
    const itemId = await itemOfVerdict({ tx, viewer, access, row, body });
    const { zone } = access.project;
    const given = { id: commandId, verdict, itemId, zone, seenVersion, tookMs, now };
    const after = await giveVerdict(tx, viewer, row, given);
    if (body.verdict.kind === "ask")
      await tx.insert(reportMessage).values({
        reportId: row.id,
        kind: "question",
        body: body.verdict.question.trim(),
        authorId: viewer.personId,
        at: now,
      });
    const told = tellingOf(
      body.verdict,
      after,
      now,
      body.verdict.kind === "merge" ? await progressOf(tx, body.verdict.itemId) : null,
    );
    if (told)
      await writeToRequester(tx, row, told, {
        now,
        verdictId: body.commandId,
        by: viewer.personId,
        followers: told.kind === "news",
      });
    return resultOf(tx, after, access, body.commandId);
  });
}

async function progressOf(tx: Transaction, itemId: string): Promise<Progress> {
  const [row] = await tx
    .select({ stateKind: item.stateKind, stage: state.stage, outcome: item.outcome })
    .from(item)
    .innerJoin(state, eq(state.id, item.stateId))
    .where(eq(item.id, itemId));
  return row;
}

async function resultOf(
  tx: Transaction,
  row: ReportRow,
  access: ProjectAccess,
  verdictId: string,
): Promise<VerdictResult> {
  const [found] = row.itemId
    ? await tx.select({ number: item.number }).from(item).where(eq(item.id, row.itemId))
    : [];
  return {
    verdictId,
    reference: row.reference,
    status: row.status,
    itemId: row.itemId,
    itemKey: found ? `${access.project.key}-${found.number}` : null,
  };
}

async function itemOfVerdict({
  tx,
  viewer,
  access,
  row,
  body: { verdict, commandId, overrideReason },
}: {
  tx: Transaction;
  viewer: Viewer;
  access: ProjectAccess;
  row: ReportRow;
  body: Pick<VerdictBody, "verdict" | "commandId" | "overrideReason">;
}): Promise<string | null> {
  if (verdict.kind === "merge") {
    const target = await seenItem(tx, viewer, access.project.id, verdict.itemId);
    if (!target)
      throw invalid(
        "The item to merge into is not in this project.",
        "Choose one of the items that look like it, or give its key.",
      );
    return target.id;
  }
  if (verdict.kind === "park" && verdict.itemId !== null) {
    const awaited = await seenItem(tx, viewer, access.project.id, verdict.itemId);
    if (!awaited)
      throw invalid(
        "The item to wait for is not in this project.",
        "Choose one of the items that look like it.",
      );
    if (awaited.stateKind === "finished")
      throw invalid("The item to wait for is finished.", "Choose another, or a day.");
  }
  if (verdict.kind !== "accept") return null;
  // Refused before an item is made when the report has its verdict already.
  const possible = afterVerdict(fullStandingOf(row), verdict, row.id, 0);
  if (isRefusal(possible)) throw new Refused(possible);
  const { acceptance } = verdict;
  return (
    await acceptReport({ tx, viewer, access, row, acceptance, by: { commandId, overrideReason } })
  ).id;
}

/**
 * Undoes a verdict: the report stands where it stood before. An item that was made by accepting is
 * taken back, as long as nobody has started on it.
 */
export async function undoVerdict(
  viewer: Viewer,
  reportId: string,
  verdictId: string,
): Promise<VerdictResult> {
  return transact(async (tx) => {
    const { row, access } = await lockSeenReport(tx, viewer, reportId, "judge report");
    const [last] = await tx
      .select()
      .from(reportVerdict)
      .where(and(eq(reportVerdict.reportId, row.id), isNull(reportVerdict.undoneAt)))
      .orderBy(desc(reportVerdict.at))
      .limit(1);
    const now = Date.now();
    const command = { kind: "undo verdict" as const, verdictId, last: last ?? null };
    const after = await reportThroughDoor({ tx, by: viewer, row, command, now });
    if (last.verdict.kind === "accept" && row.itemId)
      await withdrawAccepted({ tx, viewer, access, row, commandId: last.id });
    if (last.verdict.kind === "ask")
      await tx
        .update(reportMessage)
        .set({ takenBackAt: now })
        .where(
          and(
            eq(reportMessage.reportId, row.id),
            eq(reportMessage.kind, "question"),
            eq(reportMessage.at, last.at),
          ),
        );
    // A letter that has gone out cannot be called back; one that is not true any more is corrected.
    if ((await takeBackLetters(tx, last.id)) && last.verdict.kind !== "ask")
      await writeToRequester(
        tx,
        row,
        {
          kind: "news",
          text: "What we wrote to you last does not hold: we look at your report once more and will write again.",
          at: now,
        },
        { now, by: viewer.personId },
      );
    await tx
      .update(reportVerdict)
      .set({ undoneAt: now, undoneById: viewer.personId })
      .where(eq(reportVerdict.id, last.id));
    const { reference } = row;
    return { verdictId, reference, status: after.status, itemId: null, itemKey: null };
  });
}

/**
 * Takes a report off an item that it was put to, whoever did that and however long ago: it stands
 * in the queue again, and the verdict on it counts as undone. The item, and what the others told,
 * stay.
 */
export async function takeApart(viewer: Viewer, reportId: string): Promise<void> {
  await transact(async (tx) => {
    const { row } = await lockSeenReport(tx, viewer, reportId, "judge report");
    const now = Date.now();
    await reportThroughDoor({ tx, by: viewer, row, command: { kind: "take apart" }, now });
    await tx
      .update(reportVerdict)
      .set({ undoneAt: now, undoneById: viewer.personId })
      .where(and(eq(reportVerdict.reportId, row.id), isNull(reportVerdict.undoneAt)));
  });
}
