import { and, desc, eq, exists, gte, inArray, isNull, ne, or, sql } from "drizzle-orm";
import { v5 as namedId } from "uuid";
import type { Instant } from "@/core/calendar/instant";
import { withdrawnWords } from "@/core/ship/release/withdrawal";
import type { Day } from "@/core/calendar/month";
import { delayedBegins, delayedWords, releasedWords } from "@/core/intake/released-words";
import type { Reader, Transaction } from "@/db/connection";
import { item, mailOut, release, report, reportMessage } from "@/db/schema";
import { GRACE_MS, takeBackEnd, takeBackLetters, writeToRequester } from "../mail/write";
import { putNews } from "./news";

/*
 * Whoever reported something hears once that it is delivered: when its release is out, where it is in one;
 * else when it is finished.
 */

/**
 * The release that an item's delivery is told with: once that is out, or now. Null where it is in none, and
 * where that was taken back.
 */
export async function releaseToTell(
  reader: Reader,
  itemId: string,
): Promise<{ name: string; out: boolean } | null> {
  const [found] = await reader
    .select({ name: release.name, releasedAt: release.releasedAt })
    .from(item)
    .innerJoin(release, eq(release.id, item.releaseId))
    .where(and(eq(item.id, itemId), isNull(release.removedAt), isNull(release.withdrawnAt)));
  return found ? { name: found.name, out: found.releasedAt !== null } : null;
}

/** What was delivered and is in a release, with its reports. */
const deliveredIn = (reader: Reader, releaseId: string) =>
  reader
    .select({ report, itemId: item.id })
    .from(report)
    .innerJoin(item, eq(item.id, report.itemId))
    .where(
      and(
        eq(item.releaseId, releaseId),
        eq(item.outcome, "delivered"),
        eq(item.stateKind, "finished"),
        isNull(item.withdrawnAt),
      ),
    )
    .orderBy(report.id);

/** Tells whoever reported what is delivered and in a release that it is out, if they have not heard of it. */
export async function tellReleased(
  tx: Transaction,
  { id, name }: { id: string; name: string },
  now: Instant,
): Promise<void> {
  const text = releasedWords(name);
  for (const { report: row, itemId } of await deliveredIn(tx, id)) {
    await putNews(tx, row.id, text, now);
    if (await hasHeard(tx, row.id, itemId)) continue;
    await writeToRequester(
      tx,
      row,
      { kind: "news", text, at: now },
      { now, itemId, followers: true },
    );
  }
}

/** Whether a letter about the end of an item went to whoever reported it, or is on its way. */
async function hasHeard(reader: Reader, reportId: string, itemId: string): Promise<boolean> {
  const [last] = await reader
    .select({ takesBack: mailOut.takesBack })
    .from(mailOut)
    .where(
      and(
        eq(mailOut.reportId, reportId),
        eq(mailOut.itemId, itemId),
        or(isNull(mailOut.failed), ne(mailOut.failed, "taken back")),
      ),
    )
    .orderBy(desc(mailOut.id))
    .limit(1);
  // Whoever was told that it was taken back waits to hear again.
  return last !== undefined && !last.takesBack;
}

/** Tells whoever heard that what they reported is out that its release was taken back: one letter each. */
export async function tellWithdrawn(
  tx: Transaction,
  { id, name, why }: { id: string; name: string; why: string },
  now: Instant,
): Promise<void> {
  const text = withdrawnWords(name, why);
  for (const { report: row, itemId } of await deliveredIn(tx, id)) {
    await putNews(tx, row.id, text, now);
    await writeToRequester(
      tx,
      row,
      { kind: "news", text, at: now },
      { now, itemId, followers: true, takesBack: true },
    );
  }
}

/** Letters of one moved day are known by it: another move in the same minute takes them back. */
const delayId = (releaseId: string): string => namedId(`delay of ${releaseId}`, LETTERS);
const LETTERS = "8f0d6c52-6f0e-4d0c-9a51-0d7a4b6f7c11";

/**
 * Tells whoever reported something of a release that is not out that it comes later than it was said; a day that
 * comes sooner, or back again, takes the letter back as far as it is not sent.
 */
export async function tellDelayed(
  tx: Transaction,
  { id, name, from, to }: { id: string; name: string; from: Day | null; to: Day | null },
  now: Instant,
): Promise<void> {
  await takeBackLetters(tx, delayId(id));
  await tx
    .update(reportMessage)
    .set({ takenBackAt: now })
    .where(
      and(
        eq(reportMessage.kind, "news"),
        isNull(reportMessage.takenBackAt),
        gte(reportMessage.at, now - GRACE_MS),
        sql`starts_with(${reportMessage.body}, ${delayedBegins(name)})`,
        inArray(
          reportMessage.reportId,
          tx
            .select({ id: report.id })
            .from(report)
            .innerJoin(item, eq(item.id, report.itemId))
            .where(eq(item.releaseId, id)),
        ),
      ),
    );
  if (from === null || to === null || to <= from) return;
  const text = delayedWords(name, { from, to });
  const waiting = await tx
    .select({ report })
    .from(report)
    .innerJoin(item, eq(item.id, report.itemId))
    .where(and(eq(item.releaseId, id), isNull(item.withdrawnAt)))
    .orderBy(report.id);
  for (const { report: row } of waiting) {
    await putNews(tx, row.id, text, now);
    await writeToRequester(
      tx,
      row,
      { kind: "news", text, at: now },
      { now, verdictId: delayId(id), followers: true },
    );
  }
}

/** Takes back what was told of a withdrawal that does not hold, as far as it is not sent. */
export async function takeBackWithdrawn(
  tx: Transaction,
  { id, name, why, withdrawnAt }: { id: string; name: string; why: string; withdrawnAt: Instant },
  now: Instant,
): Promise<void> {
  for (const itemId of new Set((await deliveredIn(tx, id)).map((one) => one.itemId)))
    await takeBackEnd(tx, itemId);
  await takeBackWords(tx, id, { body: withdrawnWords(name, why), since: withdrawnAt, now });
}

/** Takes back what was told of a release that is not out after all, as far as it is not sent. */
export async function takeBackReleased(
  tx: Transaction,
  { id, name, releasedAt }: { id: string; name: string; releasedAt: Instant },
  now: Instant,
): Promise<void> {
  const told = await deliveredIn(tx, id);
  for (const itemId of new Set(told.map((one) => one.itemId))) await takeBackEnd(tx, itemId);
  await takeBackWords(tx, id, { body: releasedWords(name), since: releasedAt, now });
}

/** Takes words back that stand on the pages of those who reported what is in a release. */
const takeBackWords = (
  tx: Transaction,
  releaseId: string,
  { body, since, now }: { body: string; since: Instant; now: Instant },
) =>
  tx
    .update(reportMessage)
    .set({ takenBackAt: now })
    .where(
      and(
        eq(reportMessage.kind, "news"),
        eq(reportMessage.body, body),
        gte(reportMessage.at, since),
        exists(
          tx
            .select({ one: sql`1` })
            .from(report)
            .innerJoin(item, eq(item.id, report.itemId))
            .where(and(eq(report.id, reportMessage.reportId), eq(item.releaseId, releaseId))),
        ),
      ),
    );
