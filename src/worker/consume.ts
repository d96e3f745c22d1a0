import { and, asc, eq, isNull, lte, or } from "drizzle-orm";
import { isUnreachable, transact, type Transaction } from "@/db/connection";
import { outbox } from "@/db/schema";
import { followItem } from "@/server/intake/follow-up";
import { fireTriggers } from "@/server/item/trigger";
import { log, traced } from "@/server/log";

const BATCH = 100;

type OutboxRow = typeof outbox.$inferSelect;

/**
 * Takes what happened from the outbox, in order, and does what follows from it: moves that wait for
 * it are made, reports that waited for it come back, and whoever reported something is told.
 * Several workers may run; a row is handled by one of them. A row that cannot be followed up waits,
 * longer each time, and keeps no other waiting.
 * @returns how many rows were done
 */
export async function consumeOutbox(now = Date.now()): Promise<number> {
  return transact(async (tx) => {
    const rows = await tx
      .select()
      .from(outbox)
      .where(and(isNull(outbox.doneAt), or(isNull(outbox.nextAt), lte(outbox.nextAt, now))))
      .orderBy(asc(outbox.id))
      .limit(BATCH)
      .for("update", { skipLocked: true });
    for (const row of rows) {
      if (row.kind === "item" && row.itemId) {
        const followed = await follow(tx, row, now);
        if (!followed) continue;
        await trigger(row);
      }
      await tx.update(outbox).set({ doneAt: now }).where(eq(outbox.id, row.id));
    }
    return rows.length;
  });
}

const LONGEST_PAUSE = 3_600_000;

/**
 * Whether what follows for its reports was done; where it was not, nothing of it is stored and it
 * is tried again later.
 */
async function follow(tx: Transaction, row: OutboxRow, now: number): Promise<boolean> {
  try {
    await tx.transaction((inner) => followItem(inner, row.itemId!, now));
    return true;
  } catch (error) {
    if (isUnreachable(error)) throw error;
    log.error(
      { ...traced(error), itemId: row.itemId, outboxId: row.id, tries: row.tries + 1 },
      "what an item's change means for its reports could not be done",
    );
    await tx
      .update(outbox)
      .set({ tries: row.tries + 1, nextAt: now + Math.min(LONGEST_PAUSE, 1_000 * 2 ** row.tries) })
      .where(eq(outbox.id, row.id));
    return false;
  }
}

/** One change that cannot be followed up must not keep all that comes after it waiting. */
async function trigger(row: OutboxRow): Promise<void> {
  try {
    await fireTriggers(row);
  } catch (error) {
    if (isUnreachable(error)) throw error;
    log.error(
      { ...traced(error), itemId: row.itemId, outboxId: row.id },
      "what an item's change sets off could not be done",
    );
  }
}
