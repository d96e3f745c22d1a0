import { sql } from "drizzle-orm";
import type { Transaction } from "@/db/connection";
import { item, itemLink } from "@/db/schema";
import { invalid } from "../refused";

/**
 * Refuses what would make items wait for themselves. An item waits for what it is said to wait for,
 * and for all that stands under it. One at a time looks and writes, so that two who each see no
 * circle do not make one together.
 * @throws Refused
 */
export async function refuseCircle(
  tx: Transaction,
  projectId: string,
  { waiting, for: wanted }: { waiting: string; for: string },
): Promise<void> {
  await tx.execute(
    sql`select pg_advisory_xact_lock(hashtextextended(${`what waits for what in ${projectId}`}::text, 0))`,
  );
  const { rows } = await tx.execute(sql`
    with recursive ahead(id) as (
      select ${wanted}::uuid
      union
      select next.id from ahead, lateral (
        select ${itemLink.toItemId} as id from ${itemLink}
        where ${itemLink.fromItemId} = ahead.id and ${itemLink.kind} = 'waits for'
        union all
        select ${item.id} from ${item}
        where ${item.parentId} = ahead.id and ${item.withdrawnAt} is null
      ) as next
    )
    select 1 from ahead where id = ${waiting}::uuid limit 1`);
  if (rows.length > 0)
    throw invalid(
      "They would wait for each other in a circle.",
      "Take away what leads back, or split one of them.",
    );
}
