import { asc, eq, isNull } from "drizzle-orm";
import { isUnreachable, transact } from "@/db/connection";
import { outbox } from "@/db/schema";
import { followItem } from "@/server/intake/follow-up";
import { fireTriggers } from "@/server/item/trigger";
import { log, traced } from "@/server/log";

const BATCH = 100;

/**
 * Takes what happened from the outbox, in order, and does what follows from it: moves that wait for it are made, reports that
 * waited for it come back, and whoever reported something is told. Several workers may run; a row is handled by one of them.
 * @returns how many rows were done
 */
export async function consumeOutbox(now = Date.now()): Promise<number> {
  return transact(async (tx) => {
    const rows = await tx.select().from(outbox).where(isNull(outbox.doneAt)).orderBy(asc(outbox.id)).limit(BATCH).for("update", { skipLocked: true });
    for (const row of rows) {
      if (row.kind === "item" && row.itemId) {
        await followItem(tx, row.itemId, now);
        await trigger(row);
      }
      await tx.update(outbox).set({ doneAt: now }).where(eq(outbox.id, row.id));
    }
    return rows.length;
  });
}

/** One change that cannot be followed up must not keep all that comes after it waiting. */
async function trigger(row: typeof outbox.$inferSelect): Promise<void> {
  try {
    await fireTriggers(row);
  } catch (error) {
    if (isUnreachable(error)) throw error;
    log.error({ ...traced(error), itemId: row.itemId, outboxId: row.id }, "what an item's change sets off could not be done");
  }
}
