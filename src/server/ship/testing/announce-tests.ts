import type { Instant } from "@/core/calendar/instant";
import type { Transaction } from "@/db/connection";
import { announce } from "../../events/announce";

/** Tells the pages of a project that something of its tests is different, of some items or of none. */
export async function announceTests(
  tx: Transaction,
  projectId: string,
  { itemIds, now }: { itemIds: readonly (string | null)[]; now: Instant },
): Promise<void> {
  const concerned = [...new Set(itemIds)];
  for (const itemId of concerned.length > 0 ? concerned : [null])
    await announce(tx, projectId, { kind: "tests changed", data: { itemId } }, now);
}
