import { and, desc, eq, inArray, isNull, lte, sql } from "drizzle-orm";
import { lastDigest } from "@/core/alerts/hours";
import { digestLetter, MOST_IN_DIGEST, type ToldOfItem } from "@/core/alerts/letter";
import type { Digest } from "@/core/alerts/ways";
import { DAY } from "@/core/calendar/instant";
import { OWN_MAIL_HEADER } from "@/core/formats/mail-text";
import { database, transact, type Transaction } from "@/db/connection";
import { alert, mailStopped } from "@/db/schema";
import { log, traced } from "../log";
import { mailer, type Transporter } from "../mail/mailer";
import { appAddress, mailSettings } from "../mail/settings";
import { hoursOf } from "./hours";
import { ANSWERS_TO } from "./send-mail";
import { receiverOf, toldNow } from "./sent-telling";

const TITLES: Record<Digest, string> = { morning: "Since yesterday", weekly: "This week" };

/** Of alerts beyond so many a digest says only how many they are. */
const MOST_READ = 5 * MOST_IN_DIGEST;

/**
 * Sends the digests that are due: to each person what came for it before its hour, by item, in one
 * mail. What they have read in the meantime is left out.
 * @returns how many were sent
 */
export async function sendDigests(now = Date.now()): Promise<number> {
  const by = mailer();
  if (!by) return 0;
  const waiting = await database()
    .select({
      personId: alert.personId,
      digest: alert.digest,
      oldest: sql<number>`extract(epoch from min(${alert.lastAt})) * 1000`.mapWith(Number),
    })
    .from(alert)
    .where(and(sql`${alert.digest} is not null`, isNull(alert.digestedAt)))
    .groupBy(alert.personId, alert.digest);
  if (waiting.length === 0) return 0;
  const hours = await hoursOf(database(), [...new Set(waiting.map(({ personId }) => personId))]);
  let sent = 0;
  for (const { personId, digest, oldest } of waiting) {
    const until = lastDigest(hours(personId), digest!, now);
    if (oldest > until) continue;
    try {
      if (await transact((tx) => sendOne(tx, by, { personId, digest: digest!, until, now })))
        sent += 1;
    } catch (error) {
      log.error({ ...traced(error), personId, digest }, "a digest could not be sent");
    }
  }
  return sent;
}

interface Due {
  personId: string;
  digest: Digest;
  /** What came until then belongs into it. */
  until: number;
  now: number;
}

/** @throws what kept it from being sent: then it is tried again at the next look */
async function sendOne(tx: Transaction, by: Transporter, due: Due): Promise<boolean> {
  const { personId, digest, until, now } = due;
  const rows = await tx
    .select()
    .from(alert)
    .where(
      and(
        eq(alert.personId, personId),
        eq(alert.digest, digest),
        isNull(alert.digestedAt),
        lte(alert.lastAt, until),
      ),
    )
    .orderBy(desc(alert.lastAt), desc(alert.id))
    .for("update", { skipLocked: true });
  if (rows.length === 0) return false;
  const receiver = await receiverOf(personId);
  const stopped = await stoppedItems(tx, personId);
  const unread = rows.filter(
    (row) => row.readAt === null && row.doneAt === null && !stopped.has(row.itemId),
  );
  const told = receiver && (await toldNow(receiver.viewer, unread.slice(0, MOST_READ)));
  const letterable = told ? byItem(unread, told) : [];
  if (receiver && letterable.length > 0) {
    const { domain } = mailSettings();
    const rules = appAddress("/account/alerts");
    const letter = digestLetter(
      letterable,
      {
        title: TITLES[digest],
        list: appAddress("/"),
        more: new Set(unread.slice(MOST_READ).map(({ itemId }) => itemId)).size,
      },
      { stop: null, rules, answerable: false },
    );
    await by.sendMail({
      from: { name: "Zigzag Lane", address: `${ANSWERS_TO}@${domain}` },
      to: receiver.mail,
      ...letter,
      messageId: `<${digest}-${Math.floor(until / DAY)}-${rows[0].id}@${domain}>`,
      headers: { "Auto-Submitted": "auto-generated", [OWN_MAIL_HEADER]: "1" },
    });
  }
  await tx
    .update(alert)
    .set({ digestedAt: now })
    .where(
      inArray(
        alert.id,
        rows.map(({ id }) => id),
      ),
    );
  return letterable.length > 0;
}

async function stoppedItems(tx: Transaction, personId: string): Promise<Set<string>> {
  const rows = await tx
    .select({ itemId: mailStopped.itemId })
    .from(mailStopped)
    .where(eq(mailStopped.personId, personId));
  return new Set(rows.map(({ itemId }) => itemId));
}

/** Several alerts about an item are one entry, told in the order in which they happened. */
function byItem(
  rows: readonly (typeof alert.$inferSelect)[],
  told: ReadonlyMap<string, ToldOfItem>,
): ToldOfItem[] {
  const items = new Map<string, ToldOfItem>();
  for (const { id } of rows) {
    const one = told.get(id);
    if (!one) continue;
    const known = items.get(one.itemKey);
    items.set(one.itemKey, {
      ...one,
      why: [...new Set([...(known?.why ?? []), ...one.why])],
      lines: [...one.lines, ...(known?.lines ?? [])],
    });
  }
  return [...items.values()];
}
