import { and, eq, inArray, sql } from "drizzle-orm";
import { answered, titleOf, withoutQuote, writerOf } from "@/core/formats/mail-text";
import type { MailFate } from "@/core/intake/letters";
import { database, transact, type Transaction } from "@/db/connection";
import { mailAddress, mailIn, mailOut, report } from "@/db/schema";
import { storeFiles, storeReport } from "../intake/new-report";
import { takeAnswer } from "../intake/private-page";
import { countUse } from "../rate-limit";
import { readMail } from "./read";
import { mailSettings } from "./settings";
import { writeToRequester } from "./write";

/** A mail with everything in it is not larger. */
export const LARGEST_MAIL = 12 * 1024 * 1024;
const PER_SENDER = 20;
const PER_ADDRESS = 300;
const HOUR_MS = 3_600_000;

export interface Envelope {
  /** Where failures go; empty for mails that must not be answered. */
  from: string;
  to: string;
}

export type Delivered = { became: MailFate; reportId: string | null };

/** The open address of a project that a recipient names; null where there is none. */
export async function openAddress(recipient: string): Promise<typeof mailAddress.$inferSelect | null> {
  const [, name, domain] = /^([^@\s]{1,64})@([^@\s]+)$/.exec(recipient.toLowerCase()) ?? [];
  if (!name || domain !== mailSettings().domain.toLowerCase()) return null;
  // What stands behind a plus is the sender's own mark.
  const [row] = await database().select().from(mailAddress).where(eq(mailAddress.name, name.split("+")[0]));
  return row?.open ? row : null;
}

export type Admission = "welcome" | "unknown" | "too many";

/** Whether a mail may be handed over at all, said before it is sent. */
export async function admitMail({ from, to }: Envelope, now = Date.now()): Promise<Admission> {
  const address = await openAddress(to);
  if (!address) return "unknown";
  const bySender = await countUse(`mail from ${from.toLowerCase().slice(0, 200)}`, PER_SENDER, HOUR_MS, now);
  const byAddress = await countUse(`mail to ${address.name}`, PER_ADDRESS, HOUR_MS, now);
  return bySender.allowed && byAddress.allowed ? "welcome" : "too many";
}

/**
 * Takes in one mail: an answer to a letter of ours stands with its report and with the item that came of it, by its headers
 * alone; anything else that a person wrote becomes a report and is answered with a receipt. What machines wrote is noted
 * and never answered. The same mail handed over twice is taken once.
 */
export async function takeMail(raw: Buffer, envelope: Envelope, now = Date.now()): Promise<Delivered> {
  const address = await openAddress(envelope.to);
  if (!address) return { became: "refused", reportId: null };
  const { messageId, sender, subject, text: whole, headers, files } = await readMail(raw, envelope.from);
  const mine = and(eq(mailIn.messageId, messageId), eq(mailIn.projectId, address.projectId));
  return transact(async (tx) => {
    const note = async (became: MailFate, reportId: string | null): Promise<Delivered> => {
      await tx.update(mailIn).set({ became, reportId }).where(mine);
      return { became, reportId };
    };
    const fresh = await tx.insert(mailIn).values({ messageId, projectId: address.projectId, reportId: null, sender, subject, became: "refused", at: now }).onConflictDoNothing().returning({ id: mailIn.messageId });
    if (fresh.length === 0) {
      const [known] = await tx.select({ became: mailIn.became, reportId: mailIn.reportId }).from(mailIn).where(mine);
      return known;
    }
    const ours = await lettersAnswered(tx, answered(headers));
    const writer = writerOf(headers, envelope.from);
    if (writer === "bounce") {
      const about = ours ?? (await lettersAnswered(tx, raw.toString("latin1").match(/^(?:message-id|original-message-id):\s*(<[^<>\s]+>)/gim)?.flatMap((l) => l.match(/<[^<>\s]+>/) ?? []) ?? []));
      if (about) await tx.update(mailOut).set({ failed: "came back undelivered" }).where(eq(mailOut.id, about.id));
      return note("bounce", about?.reportId ?? null);
    }
    if (writer !== "person" || !sender.includes("@")) return note(writer === "loop" ? "loop" : "automatic", ours?.reportId ?? null);
    if (ours && ours.projectId === address.projectId && ours.byRequester) {
      const text = withoutQuote(whole).slice(0, 10_000) || "(The answer has no words.)";
      await takeAnswer(tx, ours.reportId, text, now);
      await storeFiles(tx, ours.reportId, files, now);
      return note("answer", ours.reportId);
    }
    const text = withoutQuote(whole).slice(0, 10_000);
    const row = await storeReport(tx, address.projectId, { title: titleOf(subject, text), happened: text || subject || "The mail had no words.", mail: sender, way: "mail", teamId: address.teamId }, files, now);
    await writeToRequester(tx, row, { kind: "receipt", thanks: "" }, { now });
    return note("report", row.id);
  });
}

/** The letter of ours that a mail answers, the nearest first, and whether it went to whoever sent the report: what a follower writes is a report of its own. */
async function lettersAnswered(tx: Transaction, ids: readonly string[]): Promise<{ id: number; reportId: string; projectId: string; byRequester: boolean } | null> {
  if (ids.length === 0) return null;
  const rows = await tx.select({ id: mailOut.id, reportId: mailOut.reportId, projectId: report.projectId, messageId: mailOut.messageId, byRequester: sql<boolean>`lower(${mailOut.recipient}) = lower(${report.mail})` }).from(mailOut).innerJoin(report, eq(report.id, mailOut.reportId)).where(inArray(mailOut.messageId, ids.slice(0, 50)));
  return ids.map((id) => rows.find((r) => r.messageId === id)).find((r) => r !== undefined) ?? null;
}
