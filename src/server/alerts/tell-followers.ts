import { and, eq, isNull, ne, sql } from "drizzle-orm";
import type { Transaction } from "@/db/connection";
import { follow, item } from "@/db/schema";
import { snapshotOf } from "../item/rows";
import { whoSees } from "./hearers";
import { keepAlerts } from "./keep";

/** Tells those who follow the items of a release something about it; nobody of their own doing. */
export async function tellFollowersOf(
  tx: Transaction,
  releaseId: string,
  { said, byId, now }: { said: string; byId: string; now: number },
): Promise<void> {
  const rows = await tx
    .select({ item, personId: follow.personId })
    .from(item)
    .innerJoin(follow, and(eq(follow.kind, "item"), sql`${follow.target} = ${item.id}::text`))
    .where(
      and(
        eq(item.releaseId, releaseId),
        isNull(item.withdrawnAt),
        eq(follow.on, true),
        ne(follow.personId, byId),
      ),
    )
    .orderBy(item.id);
  for (const { item: row, personId } of rows) {
    if (!(await whoSees(tx, snapshotOf(row), [personId])).has(personId)) continue;
    const of = { itemId: row.id, expedite: row.classOfService === "expedite" };
    await keepAlerts(tx, of, [{ personId, rules: ["follows"], said }], now);
  }
}
