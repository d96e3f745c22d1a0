import { sql, type SQL } from "drizzle-orm";
import type { Transaction } from "@/db/connection";
import { lockInOrder } from "../enter";
import { holdWorkflowsOf } from "../../workflow/move-lock";

/**
 * Takes the locks of all items that a part of a job is about, before the first is changed: their
 * workflows as every command does, then the items in the order of their ids.
 */
export async function lockForBulk(tx: Transaction, itemIds: readonly string[]): Promise<void> {
  await holdWorkflowsOf(tx, itemIds);
  await lockInOrder(tx, itemIds);
}

const stopping = (jobId: string): SQL => sql`hashtextextended(${`stop job ${jobId}`}, 0)`;

/**
 * Waits for the part of a job that is being done, and keeps the next one from being begun: whoever
 * wants to stop a job comes before it, however fast its parts follow each other.
 */
export async function holdNextPart(tx: Transaction, jobId: string): Promise<void> {
  await tx.execute(sql`select pg_advisory_xact_lock(${stopping(jobId)})`);
}

/** Whether nobody wants to stop a job; then they wait for the part that is begun now. */
export async function mayBeginPart(tx: Transaction, jobId: string): Promise<boolean> {
  const { rows } = await tx.execute<{ may: boolean }>(
    sql`select pg_try_advisory_xact_lock_shared(${stopping(jobId)}) as may`,
  );
  return rows[0].may;
}
