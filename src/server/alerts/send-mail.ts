import { and, asc, eq, isNotNull, isNull, lte } from "drizzle-orm";
import { mayWriteAt } from "@/core/alerts/hours";
import { alertLetter } from "@/core/alerts/letter";
import { OWN_MAIL_HEADER } from "@/core/formats/mail-text";
import type { Transaction } from "@/db/connection";
import { alert, mailStopped } from "@/db/schema";
import { log, traced } from "../log";
import type { Transporter } from "../mail/mailer";
import { isGivenUp, sendDue, triedAgainAt, type SendOutcome } from "../mail/outbox";
import { appAddress, mailSettings } from "../mail/settings";
import { hoursOf } from "./hours";
import { receiverOf, toldNow } from "./sent-telling";
import { tokenFor } from "./signed-token";

type AlertRow = typeof alert.$inferSelect;

/** What stands before the plus in the address to which alerts are answered. */
export const ANSWERS_TO = "answer";

/**
 * Sends the mails of alerts that are due. Who may see what is asked now, and the words are made
 * now. An alert is held while its mail is sent, so two workers do not send it twice; a mail whose
 * sending was cut off by a crash is sent again under the same Message-ID.
 * @returns how many were sent
 */
export const sendAlertMails = (now = Date.now()): Promise<number> => sendDue(sendNext, now);

async function sendNext(tx: Transaction, by: Transporter, now: number): Promise<SendOutcome> {
  const [row] = await tx
    .select()
    .from(alert)
    .where(
      and(
        isNotNull(alert.mailDueAt),
        lte(alert.mailDueAt, now),
        isNull(alert.mailedAt),
        isNull(alert.unsent),
      ),
    )
    .orderBy(asc(alert.mailDueAt), asc(alert.id))
    .limit(1)
    .for("update", { skipLocked: true });
  if (!row) return "none";
  const set = (change: Partial<AlertRow>) =>
    tx.update(alert).set(change).where(eq(alert.id, row.id));
  const hours = (await hoursOf(tx, [row.personId]))(row.personId);
  const at = row.urgent ? now : mayWriteAt(hours, now);
  if (at > now) {
    await set({ mailDueAt: at });
    return "left";
  }
  const letter = await letterOf(tx, row);
  if ("unsent" in letter) {
    await set({ unsent: letter.unsent });
    return "left";
  }
  try {
    await by.sendMail(letter.mail);
    await set({ mailedAt: now, tries: row.tries + 1 });
    return "sent";
  } catch (error) {
    const tries = row.tries + 1;
    log.error({ ...traced(error), alertId: row.id, tries }, "an alert could not be sent");
    const unsent = isGivenUp(tries) ? "the mail server did not take it" : null;
    await set({ tries, unsent, mailDueAt: triedAgainAt(now, row.tries) });
    return "left";
  }
}

/** The mail of an alert as its person may read it now, or why there is none. */
async function letterOf(
  tx: Transaction,
  row: AlertRow,
): Promise<{ unsent: string } | { mail: Parameters<Transporter["sendMail"]>[0] }> {
  if (row.readAt !== null || row.doneAt !== null) return { unsent: "read before it was sent" };
  const receiver = await receiverOf(row.personId);
  if (!receiver) return { unsent: "the account has ended" };
  const [stopped] = await tx
    .select()
    .from(mailStopped)
    .where(and(eq(mailStopped.personId, row.personId), eq(mailStopped.itemId, row.itemId)));
  if (stopped) return { unsent: "mail about it was stopped" };
  const told = (await toldNow(receiver.viewer, [row])).get(row.id);
  if (!told) return { unsent: "nothing of it is left to tell" };
  const { domain, doorPort } = mailSettings();
  const stop = appAddress(`/stop/${tokenFor("stop mail about an item", row.id)}`);
  const oneClick = appAddress(
    `/api/public/alerts/stop/${tokenFor("stop mail about an item", row.id)}`,
  );
  const answer = `${ANSWERS_TO}+${tokenFor("answer an alert", row.id)}@${domain}`;
  const root = `<item-${row.itemId}@${domain}>`;
  const letter = alertLetter(told, {
    stop,
    rules: appAddress("/account/alerts"),
    answerable: doorPort !== null,
  });
  return {
    mail: {
      from: { name: told.projectName, address: `${ANSWERS_TO}@${domain}` },
      to: receiver.mail,
      ...(doorPort === null ? {} : { replyTo: answer }),
      ...letter,
      // All mails about an item answer the same one, which nobody ever sent: so they are one thread.
      messageId: `<alert-${row.id}@${domain}>`,
      inReplyTo: root,
      references: [root],
      headers: {
        // Machines that answer by themselves leave such mails alone (RFC 3834).
        "Auto-Submitted": "auto-generated",
        [OWN_MAIL_HEADER]: "1",
        // One press in the mail program stops them (RFC 2369, RFC 8058).
        "List-Unsubscribe": `<${oneClick}>`,
        "List-Unsubscribe-Post": "List-Unsubscribe=One-Click",
      },
    },
  };
}
