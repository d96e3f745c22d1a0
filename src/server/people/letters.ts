import { and, asc, eq, isNull, lte } from "drizzle-orm";
import { v7 as newId } from "uuid";
import { OWN_MAIL_HEADER } from "@/core/formats/mail-text";
import type { Transaction } from "@/db/connection";
import { accountLetter } from "@/db/schema";
import { log, traced } from "../log";
import type { Transporter } from "../mail/mailer";
import { isGivenUp, sendDue, triedAgainAt, type SendOutcome } from "../mail/outbox";
import { mailSettings } from "../mail/settings";

/** A letter about an account. */
export interface AccountLetter {
  recipient: string;
  subject: string;
  body: string;
}

/** Whether letters leave the product at all. */
export const mailGoesOut = (): boolean => mailSettings().outgoing !== null;

/** Keeps a letter to be sent once what it is about is stored. */
export async function keepLetter(tx: Transaction, letter: AccountLetter, now: number) {
  await tx.insert(accountLetter).values({ ...letter, id: newId(), dueAt: now });
}

/**
 * Sends letters about accounts that are due. One that cannot be sent is tried again after growing
 * pauses and given up in the end; the links in it are emptied with it.
 * @returns how many were sent
 */
export const sendAccountLetters = (now = Date.now()): Promise<number> => sendDue(sendNext, now);

async function sendNext(tx: Transaction, by: Transporter, now: number): Promise<SendOutcome> {
  const [row] = await tx
    .select()
    .from(accountLetter)
    .where(
      and(
        isNull(accountLetter.sentAt),
        isNull(accountLetter.failed),
        lte(accountLetter.dueAt, now),
      ),
    )
    .orderBy(asc(accountLetter.dueAt), asc(accountLetter.id))
    .limit(1)
    .for("update", { skipLocked: true });
  if (!row) return "none";
  const tries = row.tries + 1;
  const set = (change: Partial<typeof accountLetter.$inferInsert>) =>
    tx
      .update(accountLetter)
      .set({ tries, ...change })
      .where(eq(accountLetter.id, row.id));
  const { domain } = mailSettings();
  try {
    await by.sendMail({
      from: { name: "Zigzag Lane", address: `no-answer@${domain}` },
      to: row.recipient,
      subject: row.subject,
      text: row.body,
      messageId: `<account-${row.id}@${domain}>`,
      // Machines that answer by themselves leave such mails alone (RFC 3834).
      headers: { "Auto-Submitted": "auto-generated", [OWN_MAIL_HEADER]: "1" },
    });
    await set({ sentAt: now, body: "" });
    return "sent";
  } catch (error) {
    log.error({ ...traced(error), letterId: row.id, tries }, "a letter could not be sent");
    const givenUp = isGivenUp(tries) ? { failed: "not taken", body: "" } : {};
    await set({ dueAt: triedAgainAt(now, row.tries), ...givenUp });
    return "left";
  }
}
