import { and, asc, eq, isNull, sql } from "drizzle-orm";
import { statusForRequester } from "@/core/intake/report";
import { isUnreachable, transact } from "@/db/connection";
import { fireTriggers } from "@/server/item/trigger";
import { log } from "@/server/log";
import { item, outbox, report, reportMessage, state } from "@/db/schema";

const BATCH = 100;

/**
 * Takes what happened from the outbox, in order, and does what follows from it: moves that wait for it are made, and whoever
 * reported something is told on their private page when its item reaches another step. Several workers may run; a row is handled by one of them.
 * @returns how many rows were done
 */
export async function consumeOutbox(now = Date.now()): Promise<number> {
  return transact(async (tx) => {
    const rows = await tx.select().from(outbox).where(isNull(outbox.doneAt)).orderBy(asc(outbox.id)).limit(BATCH).for("update", { skipLocked: true });
    for (const row of rows) {
      if (row.kind === "item" && row.itemId) {
        const reports = await tx
          .select({ report, stateKind: item.stateKind, outcome: item.outcome, stage: state.stage })
          .from(report)
          .innerJoin(item, eq(item.id, report.itemId))
          .innerJoin(state, eq(state.id, item.stateId))
          .where(eq(report.itemId, row.itemId));
        for (const { report: told, ...progress } of reports) {
          const { headline, detail } = statusForRequester(told, progress);
          const body = detail ? `${headline}. ${detail}` : headline;
          const [last] = await tx
            .select({ body: reportMessage.body })
            .from(reportMessage)
            .where(and(eq(reportMessage.reportId, told.id), eq(reportMessage.kind, "progress")))
            .orderBy(sql`${reportMessage.id} desc`)
            .limit(1);
          if (last?.body !== body) await tx.insert(reportMessage).values({ reportId: told.id, kind: "progress", body, at: now });
        }
      }
      if (row.kind === "item") await trigger(row);
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
    log.error({ reason: (error as Error).message, itemId: row.itemId, outboxId: row.id }, "what an item's change sets off could not be done");
  }
}
