import { gt, asc } from "drizzle-orm";
import { database } from "@/db/connection";
import { item } from "@/db/schema";
import { lockInOrder } from "./enter";
import { rebuildFlow } from "./store-flow";

const BATCH = 200;

/**
 * Makes the read model of the flow again from the events, some items at a time, while everybody
 * goes on working. @returns how many items it was made for
 */
export async function rebuildAllFlow(): Promise<number> {
  let made = 0;
  let after = "00000000-0000-0000-0000-000000000000";
  for (;;) {
    const some = await database()
      .select({ id: item.id })
      .from(item)
      .where(gt(item.id, after))
      .orderBy(asc(item.id))
      .limit(BATCH);
    if (some.length === 0) return made;
    await database().transaction(async (tx) => {
      await lockInOrder(
        tx,
        some.map((s) => s.id),
      );
      await rebuildFlow(tx, some);
    });
    made += some.length;
    after = some.at(-1)!.id;
  }
}
