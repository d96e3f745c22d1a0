import { randomBytes } from "node:crypto";
import { and, eq, isNull, type SQL } from "drizzle-orm";
import { letter, type LetterKind } from "@/core/intake/letters";
import type { Transaction } from "@/db/connection";
import { mailOut, project, report, reportFollower } from "@/db/schema";
import { mailSettings, pageAddress } from "./settings";

type ReportRow = typeof report.$inferSelect;

/** A letter about a verdict, or about an item's end, waits so long, so that undoing it takes the letter back unread. */
export const GRACE_MS = 60_000;

interface Writing {
  now: number;
  /** The verdict that the letter tells of. */
  verdictId?: string;
  /** The item whose end it tells of. */
  itemId?: string;
  /** Who follows the report is told too. */
  followers?: boolean;
}

/** Writes to whoever sent a report; the worker sends it. Where no address is known nothing is written. */
export async function writeToRequester(tx: Transaction, row: ReportRow, told: LetterKind, { now, verdictId, itemId, followers = false }: Writing): Promise<void> {
  const readers = [{ mail: row.mail, token: row.token }, ...(followers ? await tx.select({ mail: reportFollower.mail, token: reportFollower.token }).from(reportFollower).where(eq(reportFollower.reportId, row.id)) : [])].filter((r) => r.mail !== "");
  if (readers.length === 0) return;
  const [{ name }] = await tx.select({ name: project.name }).from(project).where(eq(project.id, row.projectId));
  const { domain } = mailSettings();
  await tx.insert(mailOut).values(
    readers.map((r) => ({
      messageId: `<${randomBytes(18).toString("base64url")}@${domain}>`,
      reportId: row.id,
      recipient: r.mail,
      ...letter(told, { projectName: name, reference: row.reference, title: row.title, page: pageAddress(r.token) }),
      verdictId: verdictId ?? null,
      itemId: itemId ?? null,
      at: now,
      dueAt: now + (verdictId || itemId ? GRACE_MS : 0),
    })),
  );
}

/** Takes back what tells of a verdict as far as it is not sent. @returns whether something had been sent */
export async function takeBackLetters(tx: Transaction, verdictId: string): Promise<boolean> {
  const letters = await tx.select({ id: mailOut.id, sentAt: mailOut.sentAt }).from(mailOut).where(eq(mailOut.verdictId, verdictId)).for("update");
  await takeBack(tx, eq(mailOut.verdictId, verdictId));
  return letters.some((l) => l.sentAt !== null);
}

/** Takes back what tells of an item's end as far as it is not sent: the item has been taken up again. */
export const takeBackEnd = (tx: Transaction, itemId: string): Promise<void> => takeBack(tx, eq(mailOut.itemId, itemId));

async function takeBack(tx: Transaction, which: SQL): Promise<void> {
  await tx.update(mailOut).set({ failed: "taken back" }).where(and(which, isNull(mailOut.sentAt), isNull(mailOut.failed)));
}
