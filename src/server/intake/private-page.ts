import { and, asc, count, desc, eq, isNull, ne } from "drizzle-orm";
import { TOLD_KINDS } from "@/core/intake/private-page";
import { statusForRequester } from "@/core/intake/report";
import { transitionBetween, transitionsFrom } from "@/core/workflow/workflow";
import { database, transact, type Reader, type Transaction } from "@/db/connection";
import {
  item,
  project,
  release,
  report,
  reportFile,
  reportFollower,
  reportMessage,
  reportVerdict,
  state,
} from "@/db/schema";
import { throughDoor } from "../item/door";
import { enterItem, seeItem } from "../item/enter";
import { writeToRequester } from "../mail/write";
import { REQUESTER } from "../people/viewer";
import { notFound, Refused } from "../refused";
import { reportThroughDoor } from "./door";
import { isPicture } from "../files/kind";
import { checkFiles, type SentFile } from "./file";
import { fileOfReport, type ServedFile } from "./files";
import { newToken } from "../people/link-token";
import { storeFiles } from "./new-report";
import { answerDay } from "./report-promises";
import { announce } from "../events/announce";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import type { RequesterMove } from "@/core/intake/requester-request";
import { lockReport, type ReportRow } from "./seen-report";
import { refuse } from "@/core/workflow/refusal";
import { v7 as newId } from "uuid";
import type { PrivatePageView } from "@/core/intake/private-page";

const TOKEN = /^[A-Za-z0-9_-]{32}$/;

/** The report that a token opens, by who sent it or by who follows it. */
async function reportOf(
  reader: Reader,
  token: string,
): Promise<{ row: ReportRow; follower: boolean }> {
  if (!TOKEN.test(token)) throw notFound("report");
  const [own] = await reader.select().from(report).where(eq(report.token, token));
  if (own) return { row: own, follower: false };
  const [followed] = await reader
    .select({ report })
    .from(reportFollower)
    .innerJoin(report, eq(report.id, reportFollower.reportId))
    .where(eq(reportFollower.token, token));
  if (!followed) throw notFound("report");
  return { row: followed.report, follower: true };
}

/** The same, locked until the transaction ends. */
async function lockReportOf(
  tx: Transaction,
  token: string,
): Promise<{ row: ReportRow; follower: boolean }> {
  const { row, follower } = await reportOf(tx, token);
  return { row: await lockReport(tx, row.id), follower };
}

export async function readPrivatePage(token: string): Promise<PrivatePageView> {
  const db = database();
  const { row, follower } = await reportOf(db, token);
  const [about] = await db
    .select({
      projectName: project.name,
      zone: project.zone,
      item: { stateKind: item.stateKind, outcome: item.outcome },
      finishedAt: item.finishedAt,
      stage: state.stage,
      goesOutOn: release.dueOn,
      outAt: release.releasedAt,
    })
    .from(report)
    .innerJoin(project, eq(project.id, report.projectId))
    .leftJoin(item, eq(item.id, report.itemId))
    .leftJoin(state, eq(state.id, item.stateId))
    .leftJoin(release, and(eq(release.id, item.releaseId), isNull(release.removedAt)))
    .where(eq(report.id, row.id));
  const messages = await db
    .select({ kind: reportMessage.kind, body: reportMessage.body, at: reportMessage.at })
    .from(reportMessage)
    .where(and(eq(reportMessage.reportId, row.id), isNull(reportMessage.takenBackAt)))
    .orderBy(asc(reportMessage.id));
  const files = follower
    ? []
    : await db
        .select({ id: reportFile.id, name: reportFile.name, mediaType: reportFile.mediaType })
        .from(reportFile)
        .where(eq(reportFile.reportId, row.id))
        .orderBy(asc(reportFile.at), asc(reportFile.id));
  const { reference, title, happened, reproduce, place, receivedAt, answers } = row;
  const ended = await endedByRule(db, row);
  const now = Date.now();
  const day = (at: number) => isoDate(dayNumber(at, about.zone));
  return {
    reference,
    projectName: about.projectName,
    title,
    // Who follows a report knows what it is about; what its sender wrote besides is the sender's.
    wrote: follower
      ? null
      : {
          happened,
          reproduce,
          place,
          answers: answers.map(({ label, value }) => ({ label, value })),
        },
    receivedAt,
    now,
    files: files.map((f) => ({ id: f.id, name: f.name, picture: isPicture(f.mediaType) })),
    status: ended
      ? { headline: "Ended without your answer", detail: row.declineReason ?? "" }
      : statusForRequester(row, about.item && { ...about.item, stage: about.stage }, {
          today: day(now),
          hearBy: row.status === "unjudged" ? await answerDay(db, row.projectId, row, now) : null,
          finishedOn: about.finishedAt === null ? null : day(about.finishedAt),
          goesOutOn: stillAhead(about, day(now)),
        }),
    others: await othersWith(db, row),
    awaitsAnswer: !follower && (isAsked(row.status, messages) || ended),
    maySay: !follower,
    moves: follower ? [] : await movesOf(row.itemId),
    messages: follower ? messages.filter(({ kind }) => TOLD_KINDS.includes(kind)) : messages,
  };
}

/** The day of a release that is still to come; one that is past without being out says nothing. */
const stillAhead = (
  { goesOutOn, outAt }: { goesOutOn: string | null; outAt: number | null },
  today: string,
): string | null => (outAt === null && goesOutOn !== null && goesOutOn >= today ? goesOutOn : null);

/** How many others told of the same thing. */
async function othersWith(reader: Reader, row: ReportRow): Promise<number> {
  const [{ n }] = await reader
    .select({ n: count() })
    .from(reportFollower)
    .where(eq(reportFollower.reportId, row.id));
  if (!row.itemId) return n;
  const [{ reports }] = await reader
    .select({ reports: count() })
    .from(report)
    .where(and(eq(report.itemId, row.itemId), ne(report.id, row.id)));
  return n + reports;
}

/**
 * Whether nobody but a rule ended it, because no answer came: then an answer still opens it again.
 */
async function endedByRule(reader: Reader, row: ReportRow): Promise<boolean> {
  if (row.status !== "declined") return false;
  const [last] = await reader
    .select({ byId: reportVerdict.byId })
    .from(reportVerdict)
    .where(and(eq(reportVerdict.reportId, row.id), isNull(reportVerdict.undoneAt)))
    .orderBy(desc(reportVerdict.at))
    .limit(1);
  return last !== undefined && last.byId === null;
}

/** So much is said about one report at most. */
const MOST_SAID = 100;
const MOST_FILES_OF_ONE = 20;

/** The requester answers an open question on their page, or says more of their own accord. */
export async function sayMore(token: string, words: string): Promise<void> {
  await transact(async (tx) => {
    const row = await lockOwnReport(tx, token);
    const [{ n }] = await tx
      .select({ n: count() })
      .from(reportMessage)
      .where(and(eq(reportMessage.reportId, row.id), eq(reportMessage.kind, "answer")));
    if (n >= MOST_SAID)
      throw new Refused(
        refuse(
          "invalid",
          "So much was said about it that no more is taken here.",
          "Send a new report, with the reference of this one.",
        ),
      );
    await takeAnswer(tx, row.id, words, Date.now());
  });
}

/** Adds files to a report, by whoever sent it. @throws Refused where one is no file we take */
export async function addFiles(token: string, sent: readonly SentFile[]): Promise<void> {
  const files = checkFiles(sent);
  await transact(async (tx) => {
    const row = await lockOwnReport(tx, token);
    const [{ n }] = await tx
      .select({ n: count() })
      .from(reportFile)
      .where(eq(reportFile.reportId, row.id));
    if (n + files.length > MOST_FILES_OF_ONE)
      throw new Refused(
        refuse(
          "invalid",
          `A report takes ${MOST_FILES_OF_ONE} files at most; it has ${n}.`,
          "Send the most telling ones.",
        ),
      );
    const now = Date.now();
    await storeFiles(tx, row.id, files, now);
    const data = { reportId: row.id, kinds: ["answered" as const] };
    await announce(tx, row.projectId, { kind: "report changed", data }, now);
  });
}

/** Who follows a report does not speak for the one who sent it. */
async function lockOwnReport(tx: Transaction, token: string): Promise<ReportRow> {
  const { row, follower } = await lockReportOf(tx, token);
  if (follower)
    throw new Refused(
      refuse(
        "not for you",
        "Only whoever sent this report can add to it.",
        "Send a report of your own about what you saw.",
      ),
    );
  return row;
}

/**
 * What a requester says about their report: one that waits for it, or has ended, returns to the
 * queue; an item hears of it.
 */
export async function takeAnswer(
  tx: Transaction,
  reportId: string,
  answer: string,
  now: number,
): Promise<void> {
  const row = await lockReport(tx, reportId);
  await tx
    .insert(reportMessage)
    .values({ reportId: row.id, kind: "answer", body: answer, at: now });
  const after = await reportThroughDoor({ tx, by: null, row, command: { kind: "answer" }, now });
  if (after.itemId) await sayOnItem(tx, after.itemId, answer);
}

/**
 * Somebody to whom it happened too: they get a private page of their own and hear when it is done.
 * The same address twice changes nothing.
 */
export async function followReport(token: string, mail: string): Promise<void> {
  await transact(async (tx) => {
    const { row } = await lockReportOf(tx, token);
    if (mail.toLowerCase() === row.mail.toLowerCase())
      throw new Refused(
        refuse(
          "invalid",
          "This address has sent the report itself.",
          "Give the address of whoever it happened to as well.",
        ),
      );
    const now = Date.now();
    const [added] = await tx
      .insert(reportFollower)
      .values({
        id: newId(),
        reportId: row.id,
        mail: mail.toLowerCase(),
        token: newToken(),
        at: now,
      })
      .onConflictDoNothing()
      .returning();
    if (!added) return;
    await writeToRequester(
      tx,
      { ...row, mail: added.mail, token: added.token },
      { kind: "following" },
      { now },
    );
    await reportThroughDoor({
      tx,
      by: null,
      row,
      command: { kind: "follow", followerId: added.id },
      now,
    });
  });
}

/** Whether the last thing said, news and reminders left aside, was a question to the requester. */
function isAsked(status: string, messages: readonly { kind: string }[]): boolean {
  return (
    status === "asked" ||
    ((status === "accepted" || status === "merged") &&
      messages.findLast((m) => m.kind === "question" || m.kind === "answer")?.kind === "question")
  );
}

/** What a requester answers about work that is under way stands with the item's comments. */
async function sayOnItem(tx: Transaction, itemId: string, body: string): Promise<void> {
  await throughDoor(tx, REQUESTER, {
    on: await enterItem(tx, REQUESTER, itemId, "comment item"),
    commandId: newId(),
    ask: { kind: "comment", body },
    made: { cause: "requester" },
  });
}

/** The moves that the process leaves to whoever asked for the item. */
async function movesOf(itemId: string | null): Promise<PrivatePageView["moves"]> {
  if (itemId === null) return [];
  return transact(async (tx) => {
    const { workflow, before: now } = await seeItem(tx, REQUESTER, itemId, "read project");
    const mine = transitionsFrom(workflow, now.stateId).filter(
      (t) => now.withdrawnAt === null && t.who.some((m) => m.kind === "requester"),
    );
    return mine.map((t) => ({
      from: now.stateId,
      to: t.to,
      verb: t.verb,
      asksWhy: t.requirements.some((r) => r.kind === "reason" || r.kind === "comment"),
    }));
  });
}

/** The requester makes a move that the process leaves to them. @throws Refused as any move is */
export async function moveAsRequester(
  token: string,
  { from, to, words }: RequesterMove,
): Promise<void> {
  await transact(async (tx) => {
    const { row, follower } = await reportOf(tx, token);
    if (!row.itemId || follower) throw notFound("report");
    const entered = await enterItem(tx, REQUESTER, row.itemId, "move item");
    const transition = transitionBetween(entered.workflow, entered.before.stateId, to);
    if (!transition?.who.some((m) => m.kind === "requester"))
      throw new Refused(
        refuse(
          "not for you",
          "This step is not open to you any more.",
          "Reload the page to see how it stands.",
        ),
      );
    const answers = { reason: words, comment: words, outcome: "delivered" as const };
    await throughDoor(tx, REQUESTER, {
      on: entered,
      commandId: newId(),
      ask: { kind: "move", from, to, answers },
      made: { cause: "requester" },
    });
  });
}

/** A file that came with a report, for whoever sent it. */
export async function privateFile(token: string, fileId: string): Promise<ServedFile> {
  const { row, follower } = await reportOf(database(), token);
  if (follower) throw notFound("file");
  return fileOfReport(row.id, fileId);
}
