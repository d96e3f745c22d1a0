import { and, asc, eq, inArray, isNull, sql } from "drizzle-orm";
import { CHUNK } from "@/core/item/bulk/job";
import { transact, type Transaction } from "@/db/connection";
import { bulkItem, bulkJob, person } from "@/db/schema";
import type { Viewer } from "../../people/viewer";
import { actOn, type Went } from "./act-on";
import { lockForBulk, mayBeginPart } from "./lock";

type Job = typeof bulkJob.$inferSelect;

/**
 * Does the next part of the oldest job that waits: up to fifty items in one transaction. A part that
 * is broken off leaves nothing behind and is done again.
 * @returns how many items were looked at, at least 1; 0 when no job waits
 */
export async function doBulkChunk(now = Date.now()): Promise<number> {
  return transact(async (tx) => {
    const [job] = await tx
      .select()
      .from(bulkJob)
      .where(inArray(bulkJob.state, ["waiting", "running"]))
      .orderBy(asc(bulkJob.madeAt), asc(bulkJob.id))
      .limit(1)
      .for("update", { skipLocked: true });
    if (!job) return 0;
    if (!(await mayBeginPart(tx, job.id))) return 1;
    const next = await nextOf(tx, job);
    const viewer = await viewerOf(tx, job.personId);
    await lockForBulk(
      tx,
      next.map((one) => one.itemId),
    );
    const went = await actOn(tx, viewer, job.doing, next);
    await noteOutcomes(tx, job, next, went);
    const ended = next.length < CHUNK;
    await tx
      .update(bulkJob)
      .set(ended ? { state: "done", endedAt: now } : { state: "running" })
      .where(eq(bulkJob.id, job.id));
    // The last part can be empty; the job has ended with it all the same.
    return Math.max(1, next.length);
  });
}

/** How it went with the items of a part, in one statement. */
async function noteOutcomes(
  tx: Transaction,
  job: Job,
  next: readonly { position: number }[],
  went: readonly Went[],
): Promise<void> {
  if (next.length === 0) return;
  const positions = sql.param(next.map((one) => one.position));
  const outcomes = sql.param(went.map((one) => one.outcome));
  const sentences = sql.param(went.map((one) => one.sentence));
  await tx.execute(
    sql`update ${bulkItem} set outcome = told.outcome, sentence = told.sentence from unnest(${positions}::int[], ${outcomes}::text[], ${sentences}::text[]) as told(at, outcome, sentence) where ${bulkItem.jobId} = ${job.id} and ${bulkItem.position} = told.at`,
  );
}

async function nextOf(tx: Transaction, job: Job) {
  const rows = await tx
    .select()
    .from(bulkItem)
    .where(and(eq(bulkItem.jobId, job.id), isNull(bulkItem.outcome)))
    .orderBy(asc(bulkItem.position))
    .limit(CHUNK);
  const undone = job.undoOf === null ? new Map() : await commandsOf(tx, job.undoOf);
  return rows.map(({ itemId, commandId, position }) => ({
    itemId,
    commandId,
    position,
    undoes: (undone.get(itemId) as string | undefined) ?? null,
  }));
}

/** By item: the command that a job did. */
async function commandsOf(tx: Transaction, jobId: string): Promise<Map<string, string>> {
  const rows = await tx
    .select({ itemId: bulkItem.itemId, commandId: bulkItem.commandId })
    .from(bulkItem)
    .where(and(eq(bulkItem.jobId, jobId), eq(bulkItem.outcome, "done")));
  return new Map(rows.map((row) => [row.itemId, row.commandId]));
}

/** On whose behalf it is done: rights are those that the person has now. */
async function viewerOf(tx: Transaction, personId: string): Promise<Viewer> {
  const [found] = await tx
    .select({ name: person.name, administrator: person.administrator })
    .from(person)
    .where(eq(person.id, personId));
  return { personId, name: found.name, administrator: found.administrator ?? false };
}
