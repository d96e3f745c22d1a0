import { and, desc, eq, inArray, isNull, lte, sql, type SQL } from "drizzle-orm";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { statusForRequester } from "@/core/intake/report";
import type { ReportCommand } from "@/core/intake/decide-report";
import { NOTHING_CAME } from "@/core/intake/reproduction";
import { mostSimilar, type Text } from "@/core/intake/similarity";
import { ALIKE } from "@/core/intake/very-alike";
import { releasedWords } from "@/core/intake/released-words";
import { isDelivered } from "@/core/item/start-finish";
import { askedDue } from "@/core/intake/triage-rules";
import { database, transact, type Transaction } from "@/db/connection";
import { item, project, report, reportMessage, reportVerdict, state } from "@/db/schema";
import { namedQuery } from "@/db/statement";
import { takeBackEnd, writeToRequester } from "../mail/write";
import { reportThroughDoor } from "./door";
import { giveVerdict } from "./give-verdict";
import { releaseToTell } from "./released";
import { putNews } from "./news";
import { loadRules } from "./rules";
import { v7 as newId } from "uuid";

/**
 * Brings parked reports back to the queue on their day, by the calendar of their project. @returns
 * how many
 */
export async function wakeParkedReports(now = Date.now()): Promise<number> {
  return transact(async (tx) => {
    let woken = 0;
    const projects = await tx
      .select({ id: project.id, zone: project.zone })
      .from(project)
      .where(isNull(project.putAwayAt));
    for (const { id, zone } of projects) {
      const reached = lte(report.parkedUntil, isoDate(dayNumber(now, zone)));
      const due = and(eq(report.projectId, id), reached)!;
      await endWatched(tx, due, zone, now);
      woken += await bringBack(tx, due, { why: "day reached" }, now);
    }
    return woken;
  });
}

type ReportReturn = Extract<ReportCommand, { kind: "return" }>;

/** Whether the verdict that stands on a report, the last that nobody undid, says to watch for it. */
const isWatched = () => {
  const watched = sql`(${reportVerdict.verdict} ->> 'watched')::boolean`;
  const standing = database()
    .select({ watched })
    .from(reportVerdict)
    .where(and(eq(reportVerdict.reportId, report.id), isNull(reportVerdict.undoneAt)))
    .orderBy(desc(reportVerdict.at))
    .limit(1);
  return sql`coalesce((${standing}), false)`;
};

/** What was watched for in vain ends on its day, as its sender was told. */
async function endWatched(tx: Transaction, due: SQL, zone: string, now: number): Promise<void> {
  const ended = await tx
    .select()
    .from(report)
    .where(and(eq(report.status, "parked"), due, isWatched()))
    .orderBy(report.id)
    .for("update");
  for (const row of ended) {
    const verdict = { kind: "decline" as const, reason: NOTHING_CAME };
    const id = newId();
    await giveVerdict(tx, null, row, { id, verdict, itemId: null, zone, seenVersion: null, now });
    await writeToRequester(tx, row, { kind: "news", text: NOTHING_CAME, at: now }, { now });
  }
}

/** Reports of a project that are watched for, as they are compared. */
const watchedIn = (tx: Transaction, projectId: string) =>
  tx
    .select({ id: report.id, title: report.title, body: report.happened, place: report.place })
    .from(report)
    .where(and(eq(report.projectId, projectId), eq(report.status, "parked"), isWatched()));

/** Those of some reports that a text tells of as well. */
const likeIt = (text: Text, watched: readonly Text[]): string[] =>
  mostSimilar(text, watched, watched.length, { least: ALIKE }).map((s) => s.id);

/** A report that came in wakes those that are watched for and that are like it. @returns how many */
export async function wakeLike(tx: Transaction, reportId: string, now: number): Promise<number> {
  const [came] = await tx.select().from(report).where(eq(report.id, reportId));
  if (!came) return 0;
  const watched = (await watchedIn(tx, came.projectId)).filter((w) => w.id !== came.id);
  if (watched.length === 0) return 0;
  const { id, title, happened, place } = came;
  const woken = likeIt({ id, title, body: happened, place }, watched);
  if (woken.length === 0) return 0;
  const by = { kind: "report" as const, id };
  return bringBack(tx, inArray(report.id, woken), { why: "one like it came", by }, now);
}

/** A delivered item wakes reports that are watched for and tell of the same place or thing. */
async function wakeChanged(
  tx: Transaction,
  changed: { id: string; projectId: string; title: string; body: string; place: string | null },
  now: number,
): Promise<void> {
  const watched = await watchedIn(tx, changed.projectId);
  if (watched.length === 0) return;
  const place = changed.place?.trim().toLowerCase() ?? "";
  const samePlace = watched.filter((w) => place !== "" && w.place.trim().toLowerCase() === place);
  const woken = [...new Set([...samePlace.map((w) => w.id), ...likeIt(changed, watched)])];
  if (woken.length === 0) return;
  const by = { kind: "item" as const, id: changed.id };
  await bringBack(tx, inArray(report.id, woken), { why: "its part changed", by }, now);
}

/** Brings parked reports back to the queue. @returns how many */
async function bringBack(
  tx: Transaction,
  which: SQL,
  back: { why: ReportReturn["why"]; by?: ReportReturn["by"] },
  now: number,
): Promise<number> {
  const parked = await tx
    .select()
    .from(report)
    .where(and(eq(report.status, "parked"), which))
    .orderBy(report.id)
    .for("update");
  for (const row of parked)
    await reportThroughDoor({ tx, by: null, row, command: { kind: "return", ...back }, now });
  return parked.length;
}

const CHANGED = namedQuery("an item that reports are about", (reader) =>
  reader
    .select({
      id: item.id,
      projectId: item.projectId,
      title: item.title,
      body: item.description,
      place: item.place,
      stateKind: item.stateKind,
      outcome: item.outcome,
      withdrawnAt: item.withdrawnAt,
      stage: state.stage,
    })
    .from(item)
    .innerJoin(state, eq(state.id, item.stateId))
    .where(eq(item.id, sql.placeholder("itemId"))),
);

const OF_ITEM = namedQuery("the reports of an item", (reader) =>
  reader
    .select()
    .from(report)
    .where(eq(report.itemId, sql.placeholder("itemId"))),
);

/**
 * What an item's change means for reports: those that waited for its end come back, and whoever
 * told of it hears how it stands.
 * @param moved whether it changed its state; words on what is done long since wake nothing
 */
export async function followItem(
  tx: Transaction,
  itemId: string,
  now: number,
  moved: boolean,
): Promise<void> {
  const [changed] = await CHANGED(tx, { itemId });
  if (!changed) return;
  if (changed.stateKind === "finished" || changed.withdrawnAt !== null)
    await bringBack(tx, eq(report.parkedItemId, itemId), { why: "item ended" }, now);
  const delivered = changed.stateKind === "finished" && isDelivered(changed.outcome);
  if (moved && delivered) await wakeChanged(tx, changed, now);
  if (changed.stateKind !== "finished") await takeBackEnd(tx, itemId);
  const within = delivered ? await releaseToTell(tx, itemId) : null;
  for (const told of await OF_ITEM(tx, { itemId })) {
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
    // What is finished after its release went out is out by that.
    const text = within?.out ? releasedWords(within.name) : body;
    if (within?.out) await putNews(tx, told.id, text, now);
    // Every step stands on their page; the end comes by mail, to all to whom it happened: of what is in a
    // release when that is out.
    if (changed.stateKind === "finished" && (within === null || within.out))
      await writeToRequester(
        tx,
        told,
        { kind: "news", text, at: now },
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
