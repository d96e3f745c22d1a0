import { sql, type SQL } from "drizzle-orm";
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
