import { and, desc, eq, inArray, isNull, lte, type SQL } from "drizzle-orm";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { statusForRequester } from "@/core/intake/report";
import { askedDue } from "@/core/intake/triage-rules";
import { transact, type Transaction } from "@/db/connection";
import { item, project, report, reportMessage, state } from "@/db/schema";
import { takeBackEnd, writeToRequester } from "../mail/write";
import { reportThroughDoor } from "./door";
import { giveVerdict } from "./give-verdict";
import { loadRules } from "./rules";
import { v7 as newId } from "uuid";

/**
 * Brings parked reports back to the queue on their day, by the calendar of their project. @returns
 * how many
 */
export async function wakeParkedReports(now = Date.now()): Promise<number> {
  return transact(async (tx) => {
    let woken = 0;
    const projects = await tx.select({ id: project.id, zone: project.zone }).from(project);
    for (const { id, zone } of projects) {
      const reached = lte(report.parkedUntil, isoDate(dayNumber(now, zone)));
      woken += await bringBack(tx, and(eq(report.projectId, id), reached)!, "day reached", now);
    }
    return woken;
  });
}

/** Brings parked reports back to the queue. @returns how many */
async function bringBack(
  tx: Transaction,
  which: SQL,
  why: "day reached" | "item ended",
  now: number,
): Promise<number> {
  const parked = await tx
    .select()
    .from(report)
    .where(and(eq(report.status, "parked"), which))
    .orderBy(report.id)
    .for("update");
  for (const row of parked)
    await reportThroughDoor({ tx, by: null, row, command: { kind: "return", why }, now });
  return parked.length;
}

/**
 * What an item's change means for reports: those that waited for its end come back, and whoever
 * told of it hears how it stands.
 */
export async function followItem(tx: Transaction, itemId: string, now: number): Promise<void> {
  const [changed] = await tx
    .select({
      stateKind: item.stateKind,
      outcome: item.outcome,
      withdrawnAt: item.withdrawnAt,
      stage: state.stage,
    })
    .from(item)
    .innerJoin(state, eq(state.id, item.stateId))
    .where(eq(item.id, itemId));
  if (!changed) return;
  if (changed.stateKind === "finished" || changed.withdrawnAt !== null)
    await bringBack(tx, eq(report.parkedItemId, itemId), "item ended", now);
  if (changed.stateKind !== "finished") await takeBackEnd(tx, itemId);
  for (const told of await tx.select().from(report).where(eq(report.itemId, itemId))) {
    const { headline, detail } = statusForRequester(told, changed);
    const body = detail ? `${headline}. ${detail}` : headline;
    const [last] = await tx
      .select({ body: reportMessage.body })
      .from(reportMessage)
      .where(and(eq(reportMessage.reportId, told.id), eq(reportMessage.kind, "progress")))
      .orderBy(desc(reportMessage.id))
      .limit(1);
    if (last?.body === body) continue;
    await tx.insert(reportMessage).values({ reportId: told.id, kind: "progress", body, at: now });
    // Every step stands on their page; the end comes by mail, to all to whom it happened.
    if (changed.stateKind === "finished")
      await writeToRequester(
        tx,
        told,
        { kind: "news", text: body, at: now },
        { now, itemId, followers: true },
      );
  }
}

/**
 * Questions to requesters that nobody answered: they are asked once more, and in the end their
 * report ends by the project's rule, in its words. An answer that comes later still opens it again.
 */
export async function followQuestions(
  now = Date.now(),
): Promise<{ reminded: number; ended: number }> {
  return transact(async (tx) => {
    const done = { reminded: 0, ended: 0 };
    const asked = await tx
      .select()
      .from(report)
      .where(eq(report.status, "asked"))
      .for("update", { skipLocked: true });
    if (asked.length === 0) return done;
    const said = await tx
      .select({
        reportId: reportMessage.reportId,
        kind: reportMessage.kind,
        body: reportMessage.body,
        at: reportMessage.at,
      })
      .from(reportMessage)
      .where(
        and(
          inArray(
            reportMessage.reportId,
            asked.map((r) => r.id),
          ),
          inArray(reportMessage.kind, ["question", "reminder"]),
          isNull(reportMessage.takenBackAt),
        ),
      )
      .orderBy(desc(reportMessage.id));
    for (const projectId of new Set(asked.map((r) => r.projectId))) {
      const { triage } = await loadRules(tx, projectId);
      const [{ zone }] = await tx
        .select({ zone: project.zone })
        .from(project)
        .where(eq(project.id, projectId));
      for (const row of asked.filter((r) => r.projectId === projectId)) {
        const question = said.find((m) => m.reportId === row.id && m.kind === "question");
        if (!question) continue;
        const reminder = said.find(
          (m) => m.reportId === row.id && m.kind === "reminder" && m.at >= question.at,
        );
        const due = askedDue(triage, question.at, reminder?.at ?? null, now);
        if (due === "remind") {
          const text = `We are still waiting for your answer to this:\n\n${question.body}`;
          await tx
            .insert(reportMessage)
            .values({ reportId: row.id, kind: "reminder", body: text, at: now });
          await reportThroughDoor({ tx, by: null, row, command: { kind: "remind" }, now });
          await writeToRequester(tx, row, { kind: "reminder", text, at: now }, { now });
          done.reminded += 1;
        } else if (due === "end") {
          const verdict = { kind: "decline" as const, reason: triage.endWords };
          await giveVerdict(tx, null, row, {
            id: newId(),
            verdict,
            itemId: null,
            zone,
            seenVersion: null,
            now,
          });
          await writeToRequester(
            tx,
            row,
            { kind: "news", text: triage.endWords, at: now },
            { now },
          );
          done.ended += 1;
        }
      }
    }
    return done;
  });
}
