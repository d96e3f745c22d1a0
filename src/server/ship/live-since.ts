import { sql } from "drizzle-orm";
import type { Instant } from "@/core/calendar/instant";
import type { Reader } from "@/db/connection";
import { commitStanding } from "@/db/schema";
import { commitsOfItems, linksOfItems } from "./item-commits";

/**
 * When all that was merged of some items was on an environment for the first time, by the items' ids; what is not all
 * there, or of which nothing was merged, is not in it.
 */
export async function liveSince(
  reader: Reader,
  itemIds: readonly string[],
  environment: string,
): Promise<Map<string, Instant>> {
  if (itemIds.length === 0) return new Map();
  const { rows } = await reader.execute<{ item_id: string; since: number }>(sql`
    select o.item_id, (extract(epoch from max(s.first_at)) * 1000)::float8 as since
    from (${commitsOfItems(linksOfItems(itemIds))}) o
    left join ${commitStanding} s on s.repository_id = o.repository_id and s.hash = o.hash
      and s.environment = ${environment}
    where o.main_at is not null and o.reverted_by is null
    group by o.item_id
    having bool_and(s.hash is not null)`);
  return new Map(rows.map(({ item_id, since }) => [item_id, since]));
}
