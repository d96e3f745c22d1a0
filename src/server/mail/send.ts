import { and, asc, eq, isNull, lte } from "drizzle-orm";
import { OWN_MAIL_HEADER } from "@/core/formats/mail-text";
import { database, type Transaction } from "@/db/connection";
import { mailAddress, mailOut, project, report } from "@/db/schema";
import { log, traced } from "../log";
import type { Transporter } from "./mailer";
import { isGivenUp, sendDue, triedAgainAt, type SendOutcome } from "./outbox";
import { mailSettings } from "./settings";

/**
 * Sends letters that are due. A letter is held while it is sent, so two workers do not send it
 * twice; one that cannot be sent is tried again after growing pauses and given up in the end.
 * @returns how many were sent
 */
export const sendLetters = (now = Date.now()): Promise<number> => sendDue(sendNext, now);

async function sendNext(tx: Transaction, by: Transporter, now: number): Promise<SendOutcome> {
  const [row] = await tx
    .select()
    .from(mailOut)
    .where(and(isNull(mailOut.sentAt), isNull(mailOut.failed), lte(mailOut.dueAt, now)))
    .orderBy(asc(mailOut.dueAt), asc(mailOut.id))
    .limit(1)
    .for("update", { skipLocked: true });
  if (!row) return "none";
  const [about] = await tx
    .select({ projectId: project.id, projectName: project.name })
    .from(report)
    .innerJoin(project, eq(project.id, report.projectId))
    .where(eq(report.id, row.reportId));
  const address = await replyAddress(about.projectId);
  const [earlier] = await tx
    .select({ messageId: mailOut.messageId })
    .from(mailOut)
    .where(and(eq(mailOut.reportId, row.reportId), eq(mailOut.recipient, row.recipient)))
    .orderBy(asc(mailOut.id))
    .limit(1);
  try {
    await by.sendMail({
      from: { name: about.projectName, address },
      to: row.recipient,
      subject: row.subject,
      text: row.body,
      messageId: row.messageId,
      ...(earlier && earlier.messageId !== row.messageId
        ? { inReplyTo: earlier.messageId, references: [earlier.messageId] }
        : {}),
      // Machines that answer by themselves leave such mails alone (RFC 3834).
      headers: { "Auto-Submitted": "auto-generated", [OWN_MAIL_HEADER]: "1" },
    });
    await tx
      .update(mailOut)
      .set({ sentAt: now, tries: row.tries + 1 })
      .where(eq(mailOut.id, row.id));
    return "sent";
  } catch (error) {
    const tries = row.tries + 1;
    const reason = (error as Error).message.slice(0, 300);
    log.error({ ...traced(error), mailId: row.id, tries }, "a letter could not be sent");
    await tx
      .update(mailOut)
      .set({
        tries,
        dueAt: triedAgainAt(now, row.tries),
        failed: isGivenUp(tries) ? reason : null,
      })
      .where(eq(mailOut.id, row.id));
    return "left";
  }
}

/** The address that letters of a project come from, so that answers find back. */
async function replyAddress(projectId: string): Promise<string> {
  const [own] = await database()
    .select({ name: mailAddress.name })
    .from(mailAddress)
    .where(eq(mailAddress.projectId, projectId))
    .orderBy(asc(mailAddress.createdAt), asc(mailAddress.name))
    .limit(1);
  return `${own?.name ?? "no-answer"}@${mailSettings().domain}`;
}
