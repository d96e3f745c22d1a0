import { and, inArray, isNull, sql, type SQL } from "drizzle-orm";
import type { StateId } from "@/core/workflow/state";
import type { Reader } from "@/db/connection";
import { item } from "@/db/schema";

/** How many items a condition holds for. */
export async function countWhere(reader: Reader, where: SQL | undefined): Promise<number> {
  const [{ count }] = await reader
    .select({ count: sql<number>`count(*)::int` })
    .from(item)
    .where(where);
  return count;
}

/** How many items are in each of some states; a state without any is left out. */
export async function countInStates(
  reader: Reader,
  stateIds: readonly StateId[],
): Promise<Map<StateId, number>> {
  if (stateIds.length === 0) return new Map();
  const rows = await reader
    .select({ id: item.stateId, count: sql<number>`count(*)::int` })
    .from(item)
    .where(and(inArray(item.stateId, [...stateIds]), isNull(item.withdrawnAt)))
    .groupBy(item.stateId);
  return new Map(rows.map((r) => [r.id, r.count]));
}
