import { randomUUID } from "node:crypto";
import { and, desc, eq, inArray, isNull, lte, sql } from "drizzle-orm";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { statusForRequester, UNJUDGED } from "@/core/intake/report";
import { askedDue } from "@/core/intake/triage-rules";
import { transact, type Transaction } from "@/db/connection";
import { item, outbox, project, report, reportMessage, reportVerdict, state } from "@/db/schema";
import { takeBackEnd, writeToRequester } from "../mail/write";
import { standingOf } from "./judge";
import { loadRules } from "./rules";

const again = (now: number) => ({
  ...UNJUDGED,
  returnedAt: now,
  version: sql`${report.version} + 1`,
});

/**
 * Brings parked reports back to the queue on their day, by the calendar of their project. @returns
 * how many
 */
export async function wakeParkedReports(now = Date.now()): Promise<number> {
  return transact(async (tx) => {
    let woken = 0;
    for (const { id, zone } of await tx
      .select({ id: project.id, zone: project.zone })
      .from(project)) {
      const due = await tx
        .update(report)
        .set(again(now))
        .where(
          and(
            eq(report.projectId, id),
            eq(report.status, "parked"),
            lte(report.parkedUntil, isoDate(dayNumber(now, zone))),
          ),
        )
        .returning({ id: report.id });
      for (const { id: reportId } of due)
        await tx.insert(outbox).values({ projectId: id, at: now, kind: "intake", reportId });
      woken += due.length;
    }
    return woken;
  });
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
  if (changed.stateKind === "finished" || changed.withdrawnAt !== null) {
    const back = await tx
      .update(report)
      .set(again(now))
      .where(and(eq(report.status, "parked"), eq(report.parkedItemId, itemId)))
      .returning({ id: report.id, projectId: report.projectId });
    for (const { id, projectId } of back)
      await tx.insert(outbox).values({ projectId, at: now, kind: "intake", reportId: id });
  }
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
          await writeToRequester(tx, row, { kind: "reminder", text, at: now }, { now });
          done.reminded += 1;
        } else if (due === "end") {
          const after = {
            ...UNJUDGED,
            status: "declined" as const,
            declineReason: triage.endWords,
          };
          await tx
            .update(report)
            .set({ ...after, version: row.version + 1 })
            .where(eq(report.id, row.id));
          await tx.insert(reportVerdict).values({
            id: randomUUID(),
            reportId: row.id,
            verdict: { kind: "decline", reason: triage.endWords },
            before: standingOf(row),
            after,
            byId: null,
            at: now,
          });
          await writeToRequester(
            tx,
            row,
            { kind: "news", text: triage.endWords, at: now },
            { now },
          );
          done.ended += 1;
        } else continue;
        await tx.insert(outbox).values({ projectId, at: now, kind: "intake", reportId: row.id });
      }
    }
    return done;
  });
}
