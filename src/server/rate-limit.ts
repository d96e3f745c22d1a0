import { sql } from "drizzle-orm";
import { database, type Reader } from "@/db/connection";
import { rateCount } from "@/db/schema";

/**
 * Counts one more use of a key in its current window, in the database so that all processes count
 * together.
 * @returns whether it is still within the limit, and after how many seconds the window ends
 * @param on a transaction, where what is counted may not happen after all
 */
export async function countUse({
  key,
  limit,
  windowMs,
  now = Date.now(),
  on = database(),
}: {
  key: string;
  limit: number;
  windowMs: number;
  now?: number;
  on?: Reader;
}): Promise<{ allowed: boolean; retryAfter: number }> {
  const windowStart = Math.floor(now / windowMs) * windowMs;
  const [{ count }] = await on
    .insert(rateCount)
    .values({ key, windowStart, count: 1 })
    .onConflictDoUpdate({
      target: [rateCount.key, rateCount.windowStart],
      set: { count: sql`${rateCount.count} + 1` },
    })
    .returning({ count: rateCount.count });
  return { allowed: count <= limit, retryAfter: Math.ceil((windowStart + windowMs - now) / 1000) };
}
