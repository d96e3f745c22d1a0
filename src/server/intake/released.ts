import { and, eq, exists, gte, isNull, ne, or, sql } from "drizzle-orm";
import type { Instant } from "@/core/calendar/instant";
import { releasedWords } from "@/core/intake/released-words";
import type { Reader, Transaction } from "@/db/connection";
import { item, mailOut, release, report, reportMessage } from "@/db/schema";
import { takeBackEnd, writeToRequester } from "../mail/write";

/*
 * Whoever reported something hears once that it is delivered: when its release is out, where it is in one;
 * else when it is finished.
 */

/** Whether an item's delivery is told when its release is out. */
export async function waitsForRelease(reader: Reader, itemId: string): Promise<boolean> {
  const [found] = await reader
    .select({ id: release.id })
    .from(item)
    .innerJoin(release, eq(release.id, item.releaseId))
    .where(and(eq(item.id, itemId), isNull(release.releasedAt), isNull(release.removedAt)));
  return found !== undefined;
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
    await tx
      .insert(reportMessage)
      .values({ reportId: row.id, kind: "progress", body: text, at: now });
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
  const [found] = await reader
    .select({ id: mailOut.id })
    .from(mailOut)
    .where(
      and(
        eq(mailOut.reportId, reportId),
        eq(mailOut.itemId, itemId),
        or(isNull(mailOut.failed), ne(mailOut.failed, "taken back")),
      ),
    )
    .limit(1);
  return found !== undefined;
}

/** Takes back what was told of a release that is not out after all, as far as it is not sent. */
export async function takeBackReleased(
  tx: Transaction,
  { id, name, releasedAt }: { id: string; name: string; releasedAt: Instant },
  now: Instant,
): Promise<void> {
  const told = await deliveredIn(tx, id);
  for (const itemId of new Set(told.map((one) => one.itemId))) await takeBackEnd(tx, itemId);
  await tx
    .update(reportMessage)
    .set({ takenBackAt: now })
    .where(
      and(
        eq(reportMessage.kind, "progress"),
        eq(reportMessage.body, releasedWords(name)),
        gte(reportMessage.at, releasedAt),
        exists(
          tx
            .select({ one: sql`1` })
            .from(report)
            .innerJoin(item, eq(item.id, report.itemId))
            .where(and(eq(report.id, reportMessage.reportId), eq(item.releaseId, id))),
        ),
      ),
    );
}
