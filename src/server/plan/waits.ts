import { and, eq, sql } from "drizzle-orm";
import type { WaitsFor } from "@/core/plan/dependencies";
import type { Reader } from "@/db/connection";
import { itemLink } from "@/db/schema";

/** Which of some items wait for which others of them. */
export async function waitsAmong(reader: Reader, ids: readonly string[]): Promise<WaitsFor[]> {
  if (ids.length === 0) return [];
  const among = sql`any(${sql.param([...ids])}::uuid[])`;
  return reader
    .select({ id: itemLink.fromItemId, forId: itemLink.toItemId })
    .from(itemLink)
    .where(
      and(
        eq(itemLink.kind, "waits for"),
        sql`${itemLink.fromItemId} = ${among}`,
        sql`${itemLink.toItemId} = ${among}`,
      ),
    );
}
