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
