import { referencesIn } from "@/core/intake/reference";
import { receiptOf } from "../intake/report-promises";
import { and, asc, eq, inArray, lte, sql } from "drizzle-orm";
import { cutText } from "@/core/formats/cut-text";
import {
  answered,
  notTaken,
  ownWords,
  plainHeaders,
  titleOf,
  writerOf,
} from "@/core/formats/mail-text";
import { plainText } from "@/core/formats/plain-text";
import type { MailFate } from "@/core/intake/letters";
import { database, transact, type Transaction } from "@/db/connection";
import { alert, mailIn, mailOut, mailWaiting, report } from "@/db/schema";
import { takeAnswerToAlert } from "../alerts/take-answer";
import type { CheckedFile } from "../intake/file";
import { storeFiles, storeReport } from "../intake/new-report";
import { takeAnswer } from "../intake/private-page";
import { log } from "../log";
import { Refused } from "../refused";
import { digestId, type ReadMail } from "./read";
import { readMailAside } from "./reading-thread";
import { writeToRequester } from "./write";

type WaitingMail = typeof mailWaiting.$inferSelect;

export type Delivered = { became: MailFate; reportId: string | null };

/**
 * So long nobody else begins to read a mail that is being read; a worker that dies over it lets go
 * of it then.
 */
const LEASE_MS = 60_000;
const MOST_TRIES = 3;

/**
 * Reads the next mail that waits, and does what it asks for. One that cannot be read, or that ended
 * the process each time it was tried, becomes a report as it came.
 * @returns what became of it; null when none waits
 */
export async function readWaitingMail(now = Date.now()): Promise<Delivered | null> {
  const waiting = await begin(now);
  if (!waiting) return null;
  const problem = waiting.tries > MOST_TRIES ? `it was tried ${MOST_TRIES} times` : null;
  const mail = problem
    ? { problem }
    : await readMailAside(waiting.raw, waiting.returnPath).catch((error) =>
        problemIn(waiting, error),
      );
  const delivered = await transact(async (tx) => {
    // Another worker may have done it meanwhile, when this one took longer than its lease.
    const [mine] = await tx
      .delete(mailWaiting)
      .where(eq(mailWaiting.id, waiting.id))
      .returning({ id: mailWaiting.id });
    if (!mine) return null;
    return "problem" in mail
      ? takeUnreadable(tx, waiting, mail.problem, now)
      : takeMail(tx, waiting, mail, now);
  });
  if (delivered) log.info({ became: delivered.became }, "a mail came in");
  return delivered;
}

/**
 * Counts one more try before it is begun, so that a mail that ends the process is not tried
 * forever.
 */
async function begin(now: number): Promise<WaitingMail | null> {
  return transact(async (tx) => {
    const [next] = await tx
      .select({ id: mailWaiting.id })
      .from(mailWaiting)
      .where(lte(mailWaiting.dueAt, now))
      .orderBy(asc(mailWaiting.dueAt))
      .limit(1)
      .for("update", { skipLocked: true });
    if (!next) return null;
    const [row] = await tx
      .update(mailWaiting)
      .set({ tries: sql`${mailWaiting.tries} + 1`, dueAt: now + LEASE_MS })
      .where(eq(mailWaiting.id, next.id))
      .returning();
    return row;
  });
}

/** @throws what kept it from being read at all: then this was no try */
async function problemIn(waiting: WaitingMail, error: unknown): Promise<{ problem: string }> {
  if (error instanceof Refused) return { problem: error.refusal.help };
  await database()
    .update(mailWaiting)
    .set({ tries: waiting.tries - 1 })
    .where(eq(mailWaiting.id, waiting.id));
  throw error;
}

/**
 * An answer to a letter of ours stands with its report and with the item that came of it: by its
 * headers, or by the reference of a report that the same person sent. Anything else that a person
 * wrote becomes a report and is answered with a receipt. What machines wrote is noted and never
 * answered. The same mail handed over twice is taken once.
 */
async function takeMail(
  tx: Transaction,
  waiting: WaitingMail,
  mail: ReadMail,
  now: number,
): Promise<Delivered> {
  const { messageId, sender, subject, headers } = mail;
  const { projectId } = waiting;
  const mine = and(eq(mailIn.messageId, messageId), eq(mailIn.projectId, projectId));
  const note = async (became: MailFate, reportId: string | null): Promise<Delivered> => {
    await tx.update(mailIn).set({ became, reportId }).where(mine);
    return { became, reportId };
  };
  const fresh = await tx
    .insert(mailIn)
    .values({ messageId, projectId, reportId: null, sender, subject, became: "refused", at: now })
    .onConflictDoNothing()
    .returning({ id: mailIn.messageId });
  if (fresh.length === 0) {
    const [known] = await tx
      .select({ became: mailIn.became, reportId: mailIn.reportId })
      .from(mailIn)
      .where(mine);
    return known;
  }
  const answers = await lettersAnswered(tx, answered(headers));
  const writer = writerOf(headers, waiting.returnPath);
  if (waiting.alertId !== null) {
    if (writer !== "person") return note(writer, null);
    const { became, ...said } = await takeAnswerToAlert(tx, waiting.alertId, mail, now);
    await tx
      .update(mailIn)
      .set({ became, ...said })
      .where(mine);
    return { became, reportId: null };
  }
  if (writer === "bounce") {
    const about = answers ?? (await lettersAnswered(tx, idsInside(waiting.raw)));
    if (about)
      await tx
        .update(mailOut)
        .set({ failed: "came back undelivered" })
        .where(eq(mailOut.id, about.id));
    return note("bounce", about?.reportId ?? null);
  }
  if (writer !== "person") return note(writer, answers?.reportId ?? null);
  const { text, files } = wordsAndFiles(mail, waiting);
  const ours = answers ?? (await reportNamed(tx, projectId, mail));
  if (ours && ours.projectId === projectId && ours.byRequester) {
    await takeAnswer(tx, ours.reportId, text || "(The answer has no words.)", now);
    await storeFiles(tx, ours.reportId, files, now);
    return note("answer", ours.reportId);
  }
  const happened = text || subject || "The mail had no words.";
  const row = await storeReport({
    tx,
    projectId,
    incoming: {
      title: titleOf(subject, text),
      happened,
      mail: sender,
      way: "mail",
      teamId: waiting.teamId,
    },
    files,
    now,
  });
  // Whoever is written to by a Reply-To has not written themselves: they hear of it when a person
  // asks them.
  if (mail.senderWrote) await writeToRequester(tx, row, await receiptOf(tx, row, "", now), { now });
  return note("report", row.id);
}

/**
 * What they wrote, with a word on what is missing; where words had to be cut the mail itself comes
 * along.
 */
function wordsAndFiles(
  mail: ReadMail,
  waiting: WaitingMail,
): { text: string; files: CheckedFile[] } {
  const own = ownWords(mail.text);
  const missing = notTaken(mail.left);
  const room = 10_000 - (missing === "" ? 0 : missing.length + 2);
  const text = [cutText(own.text, room), missing].filter((part) => part !== "").join("\n\n");
  return { text, files: own.cut ? [...mail.files, asItCame(waiting)] : mail.files };
}

const asItCame = (waiting: WaitingMail): CheckedFile => ({
  name: "the mail as it came.eml",
  mediaType: "message/rfc822",
  content: waiting.raw,
});

/** A mail that nothing can read still stands at the desk, with the mail itself as its file. */
async function takeUnreadable(
  tx: Transaction,
  waiting: WaitingMail,
  problem: string,
  now: number,
): Promise<Delivered> {
  const beginning = plainText(waiting.raw.subarray(0, 64 * 1024).toString("utf8"));
  const headers = plainHeaders(beginning);
  const subject = cutText(headers.subject?.[0] ?? "", 300);
  const sender =
    /[^\s<>@]{1,64}@[^\s<>@]{1,120}/
      .exec(headers.from?.[0] ?? waiting.returnPath)?.[0]
      .toLowerCase() ?? "";
  const writer = writerOf(headers, waiting.returnPath);
  const messageId = headers["message-id"]?.[0]?.slice(0, 300) || digestId(waiting.raw);
  const became: MailFate = writer === "person" ? "unreadable" : writer;
  const fresh = await tx
    .insert(mailIn)
    .values({
      messageId,
      projectId: waiting.projectId,
      reportId: null,
      sender,
      subject,
      became,
      at: now,
    })
    .onConflictDoNothing()
    .returning({ id: mailIn.messageId });
  if (fresh.length === 0 || became !== "unreadable") return { became, reportId: null };
  if (waiting.alertId !== null) return holdUnreadable(tx, waiting, messageId, problem);
  const happened = `This mail could not be read: ${problem.replace(/\.$/, "")}. As it came it is with the files. It begins:\n\n${cutText(beginning, 4_000)}`;
  const title = subject === "" ? "A mail that could not be read" : titleOf(subject, "");
  const row = await storeReport({
    tx,
    projectId: waiting.projectId,
    incoming: {
      title,
      happened: cutText(happened, 10000),
      mail: sender,
      way: "mail",
      teamId: waiting.teamId,
    },
    files: [asItCame(waiting)],
    now,
  });
  await tx
    .update(mailIn)
    .set({ reportId: row.id })
    .where(and(eq(mailIn.messageId, messageId), eq(mailIn.projectId, waiting.projectId)));
  return { became, reportId: row.id };
}

/** An answer to an alert that nothing can read is no report: what it is about is not everybody's. */
async function holdUnreadable(
  tx: Transaction,
  waiting: WaitingMail,
  messageId: string,
  problem: string,
): Promise<Delivered> {
  const [of] = await tx
    .select({ itemId: alert.itemId })
    .from(alert)
    .where(eq(alert.id, waiting.alertId!));
  const why = `it could not be read: ${problem.replace(/\.$/, "")}`;
  await tx
    .update(mailIn)
    .set({ became: "held", itemId: of?.itemId ?? null, why })
    .where(and(eq(mailIn.messageId, messageId), eq(mailIn.projectId, waiting.projectId)));
  return { became: "held", reportId: null };
}

/** The mails that stand inside a delivery report, the last of many left out. */
function idsInside(raw: Buffer): string[] {
  const text = raw.subarray(0, 512 * 1024).toString("latin1");
  const lines = text.match(/^(?:original-)?message-id:[ \t]{0,20}<[^<>\s]{1,250}>/gim) ?? [];
  return lines.slice(0, 50).map((line) => line.slice(line.indexOf("<")));
}

/** So far a reference is looked for in what somebody wrote. */
const NAMED_WITHIN = 4_000;

/**
 * The report that a mail names by its reference, where whoever wrote it sent that report: some mail
 * programs leave out what an answer is to.
 */
async function reportNamed(
  tx: Transaction,
  projectId: string,
  { subject, text, sender, senderWrote }: ReadMail,
): Promise<{ reportId: string; projectId: string; byRequester: boolean } | null> {
  const named = referencesIn(`${subject}\n${text.slice(0, NAMED_WITHIN)}`);
  if (!senderWrote || named.length === 0) return null;
  const [row] = await tx
    .select({ reportId: report.id })
    .from(report)
    .where(
      and(
        eq(report.projectId, projectId),
        inArray(report.reference, named),
        sql`lower(${report.mail}) = ${sender.toLowerCase()}`,
      ),
    )
    .limit(1);
  return row ? { reportId: row.reportId, projectId, byRequester: true } : null;
}

/**
 * The letter of ours that a mail answers, the nearest first, and whether it went to whoever sent
 * the report: what a follower writes is a report of its own.
 */
async function lettersAnswered(
  tx: Transaction,
  ids: readonly string[],
): Promise<{ id: number; reportId: string; projectId: string; byRequester: boolean } | null> {
  if (ids.length === 0) return null;
  const rows = await tx
    .select({
      id: mailOut.id,
      reportId: mailOut.reportId,
      projectId: report.projectId,
      messageId: mailOut.messageId,
      byRequester: sql<boolean>`lower(${mailOut.recipient}) = lower(${report.mail})`,
    })
    .from(mailOut)
    .innerJoin(report, eq(report.id, mailOut.reportId))
    .where(inArray(mailOut.messageId, ids.slice(0, 50)));
  return ids.map((id) => rows.find((r) => r.messageId === id)).find((r) => r !== undefined) ?? null;
}
