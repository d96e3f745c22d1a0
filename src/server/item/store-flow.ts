import { inArray } from "drizzle-orm";
import type { ItemSnapshot } from "@/core/item/fields";
import { flowRecord } from "@/core/item/flow-record";
import type { Transaction } from "@/db/connection";
import { block, timeboxMembership, flowPassage, stay } from "@/db/schema";
import { flowRows } from "./flow-rows";
import { historiesOf } from "./history";

/**
 * Makes the stays, blocks, passages and memberships of some items again from their histories: after
 * an undone step they are what the history amounts to without that step.
 */
export async function rebuildFlow(
  tx: Transaction,
  items: readonly Pick<ItemSnapshot, "id">[],
): Promise<void> {
  const ids = items.map((i) => i.id);
  const histories = await historiesOf(tx, ids);
  const rows = items.map((one) => flowRows(one.id, flowRecord(histories.get(one.id)!)));
  for (const table of [stay, block, flowPassage, timeboxMembership])
    await tx.delete(table).where(inArray(table.itemId, ids));
  const write = async <T>(all: T[], insert: (some: T[]) => Promise<unknown>) => {
    for (let i = 0; i < all.length; i += AT_ONCE) await insert(all.slice(i, i + AT_ONCE));
  };
  await write(
    rows.flatMap((r) => r.stays),
    (some) => tx.insert(stay).values(some),
  );
  await write(
    rows.flatMap((r) => r.blocks),
    (some) => tx.insert(block).values(some),
  );
  await write(
    rows.flatMap((r) => r.passages),
    (some) => tx.insert(flowPassage).values(some),
  );
  await write(
    rows.flatMap((r) => r.memberships),
    (some) => tx.insert(timeboxMembership).values(some),
  );
}

/** So many rows are written by one statement, which has a bound on its values. */
const AT_ONCE = 1_000;
