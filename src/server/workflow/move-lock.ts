import { and, eq, sql, type SQL } from "drizzle-orm";
import type { Transaction } from "@/db/connection";
import { item, itemType } from "@/db/schema";
import { namedQuery, namedSql } from "@/db/statement";

/*
 * Commands on items and the publishing of their workflow keep out of each other's way: any number
 * of commands at once, or one publish. The database queues both kinds fairly. The lock is taken in
 * a statement of its own, so that what is read next sees everything that was stored before it was
 * got.
 */

const key = (workflowId: SQL | typeof itemType.workflowId | string): SQL =>
  sql`hashtextextended('workflow ' || ${workflowId}, 0)`;

const holdOfItem = namedQuery("hold the workflow of an item", (reader) =>
  reader
    .select({ held: sql`pg_advisory_xact_lock_shared(${key(itemType.workflowId)})::text` })
    .from(item)
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .where(eq(item.id, sql.placeholder("itemId"))),
);

/** Holds the workflow of an item at its version until the transaction ends. */
export async function holdWorkflowOf(tx: Transaction, itemId: string): Promise<void> {
  await holdOfItem(tx, { itemId });
}

/** The same for some items: those of one type follow one workflow. */
export async function holdWorkflowsOf(tx: Transaction, itemIds: readonly string[]): Promise<void> {
  for (const { id } of await ONE_OF_EACH_TYPE(tx, [[...itemIds]])) await holdWorkflowOf(tx, id);
}

const ONE_OF_EACH_TYPE = namedSql<{ id: string }>(
  "one of the items of each type",
  `select distinct on (i.project_id, i.type_id) i.id from item i where i.id = any($1::uuid[])
  order by i.project_id, i.type_id, i.id`,
);

/** The same for the workflow of an item type. */
export async function holdWorkflowOfType(
  tx: Transaction,
  projectId: string,
  typeId: string,
): Promise<void> {
  await tx
    .select({ held: sql`pg_advisory_xact_lock_shared(${key(itemType.workflowId)})::text` })
    .from(itemType)
    .where(and(eq(itemType.projectId, projectId), eq(itemType.id, typeId)));
}

/** Waits for the commands in hand and keeps new ones waiting until the transaction ends. */
export async function stopMoves(tx: Transaction, workflowId: string): Promise<void> {
  await tx.execute(sql`select pg_advisory_xact_lock(${key(workflowId)})`);
}
