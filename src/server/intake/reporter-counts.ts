import { eq, inArray, sql } from "drizzle-orm";
import type { Reader } from "@/db/connection";
import { report, reportFollower } from "@/db/schema";

/**
 * How many people told of items: each report counts, and each who said that it happens to them too.
 * Items that nobody told of are left out.
 */
export async function reporterCounts(
  reader: Reader,
  itemIds: readonly string[],
): Promise<ReadonlyMap<string, number>> {
  if (itemIds.length === 0) return new Map();
  const rows = await reader
    .select({
      itemId: report.itemId,
      n: sql<number>`(count(distinct ${report.id}) + count(${reportFollower.id}))::int`,
    })
    .from(report)
    .leftJoin(reportFollower, eq(reportFollower.reportId, report.id))
    .where(inArray(report.itemId, [...itemIds]))
    .groupBy(report.itemId);
  return new Map(rows.map((r) => [r.itemId!, r.n]));
}
