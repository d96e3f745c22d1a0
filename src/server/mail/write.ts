import { createHash, randomBytes } from "node:crypto";
import { and, eq, isNull, type SQL } from "drizzle-orm";
import { letter, type LetterKind } from "@/core/intake/letters";
import type { Transaction } from "@/db/connection";
import { mailOut, person, project, type report, reportFollower } from "@/db/schema";
import { countUse } from "../rate-limit";
import { mailSettings, pageAddress } from "./settings";

type ReportRow = typeof report.$inferSelect;

/**
 * A letter about a verdict, or about an item's end, waits so long, so that undoing it takes the
 * letter back unread.
 */
export const GRACE_MS = 60_000;

const DAY_MS = 86_400_000;
/**
 * So many letters a day are written to one address because somebody without an account gave it,
 * whoever they were.
 */
const UNASKED_A_DAY = 3;
/** And so many in all; those beyond wait for the next day. */
const ALL_A_DAY = 30;

interface Writing {
  now: number;
  /** The verdict that the letter tells of. */
  verdictId?: string;
  /** The item whose end it tells of. */
  itemId?: string;
  /** Who follows the report is told too. */
  followers?: boolean;
  /** Whether it says that a delivery was taken back. */
  takesBack?: boolean;
  /** Whose doing it tells of: nobody is written to about what they did themselves. */
  by?: string;
}

/**
 * Writes to whoever sent a report; the worker sends it. Where no address is known nothing is
 * written.
 */
export async function writeToRequester(
  tx: Transaction,
  row: ReportRow,
  told: LetterKind,
  { now, verdictId, itemId, followers = false, takesBack = false, by }: Writing,
): Promise<void> {
  const [doer] = by
    ? await tx.select({ mail: person.email }).from(person).where(eq(person.id, by))
    : [];
  const readers = [
    { mail: row.mail, token: row.token },
    ...(followers
      ? await tx
          .select({ mail: reportFollower.mail, token: reportFollower.token })
          .from(reportFollower)
          .where(eq(reportFollower.reportId, row.id))
      : []),
  ].filter((r) => r.mail !== "" && r.mail.toLowerCase() !== doer?.mail.toLowerCase());
  if (readers.length === 0) return;
  const [{ name }] = await tx
    .select({ name: project.name })
    .from(project)
    .where(eq(project.id, row.projectId));
  const { domain } = mailSettings();
  // In one order everywhere, so that two that write to the same people do not wait for each other
  // in a circle.
  for (const reader of readers.toSorted((a, b) => (a.mail < b.mail ? -1 : 1))) {
    const held = await heldBack(tx, reader.mail, told.kind, now);
    await tx.insert(mailOut).values({
      messageId: `<${randomBytes(18).toString("base64url")}@${domain}>`,
      reportId: row.id,
      recipient: reader.mail,
      ...letter(told, {
        projectName: name,
        reference: row.reference,
        title: row.title,
        page: pageAddress(reader.token),
      }),
      verdictId: verdictId ?? null,
      itemId: itemId ?? null,
      takesBack,
      at: now,
      dueAt: Math.max(now + (verdictId || itemId ? GRACE_MS : 0), held.until),
      failed: held.forGood ? HELD_BACK : null,
    });
  }
}

/** Said in the mailbox of a letter that was not sent because too many went to its address. */
export const HELD_BACK = "held back: this address was given too often today";

/** Whether a letter may go to an address today: nobody can have it filled by giving it in forms. */
async function heldBack(
  tx: Transaction,
  mail: string,
  kind: LetterKind["kind"],
  now: number,
): Promise<{ forGood: boolean; until: number }> {
  const [name, domain] = mail.toLowerCase().split("@");
  const address = createHash("sha256")
    .update(`${name.split("+")[0]}@${domain}`)
    .digest("hex")
    .slice(0, 40);
  if (kind === "receipt" || kind === "following") {
    const unasked = await countUse({
      key: `letters unasked ${address}`,
      limit: UNASKED_A_DAY,
      windowMs: DAY_MS,
      now,
      on: tx,
    });
    if (!unasked.allowed) return { forGood: true, until: 0 };
  }
  const all = await countUse({
    key: `letters ${address}`,
    limit: ALL_A_DAY,
    windowMs: DAY_MS,
    now,
    on: tx,
  });
  return { forGood: false, until: all.allowed ? 0 : now + all.retryAfter * 1000 };
}

/**
 * Takes back what tells of a verdict as far as it is not sent. @returns whether something had been
 * sent
 */
export async function takeBackLetters(tx: Transaction, verdictId: string): Promise<boolean> {
  const letters = await tx
    .select({ id: mailOut.id, sentAt: mailOut.sentAt })
    .from(mailOut)
    .where(eq(mailOut.verdictId, verdictId))
    .for("update");
  await takeBack(tx, eq(mailOut.verdictId, verdictId));
  return letters.some((l) => l.sentAt !== null);
}

/**
 * Takes back what tells of an item's end as far as it is not sent: the item has been taken up
 * again.
 */
export const takeBackEnd = (tx: Transaction, itemId: string): Promise<void> =>
  takeBack(tx, eq(mailOut.itemId, itemId));

async function takeBack(tx: Transaction, which: SQL): Promise<void> {
  await tx
    .update(mailOut)
    .set({ failed: "taken back" })
    .where(and(which, isNull(mailOut.sentAt), isNull(mailOut.failed)));
}
