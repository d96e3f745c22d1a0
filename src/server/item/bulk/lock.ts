import type { Transaction } from "@/db/connection";
import { inArray } from "drizzle-orm";
import { item } from "@/db/schema";
import { lockInOrder } from "../enter";
import { holdWorkflowOf } from "../../workflow/move-lock";

/**
 * Takes the locks of all items that a part of a job is about, before the first is changed: their
 * workflows as every command does, then the items in the order of their ids.
 */
export async function lockForBulk(tx: Transaction, itemIds: readonly string[]): Promise<void> {
  for (const itemId of await oneOfEachWorkflow(tx, itemIds)) await holdWorkflowOf(tx, itemId);
  await lockInOrder(tx, itemIds);
}

/** An item of each type among some: those of one type follow one workflow. */
async function oneOfEachWorkflow(tx: Transaction, itemIds: readonly string[]): Promise<string[]> {
  const rows = await tx
    .selectDistinctOn([item.projectId, item.typeId], { id: item.id })
    .from(item)
    .where(inArray(item.id, [...itemIds]))
    .orderBy(item.projectId, item.typeId, item.id);
  return rows.map((row) => row.id);
}
