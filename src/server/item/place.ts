import { and, asc, desc, eq, gt, isNull, sql } from "drizzle-orm";
import { rankBetween, type Rank } from "@/core/item/rank";
import type { Transaction } from "@/db/connection";
import { item } from "@/db/schema";
import { seesItem } from "../people/access";
import type { Doer } from "../people/viewer";
import { invalid } from "../refused";

/** One at a time gives out places in a state's order, so that two people never get the same one. */
async function lockOrder(tx: Transaction, stateId: string): Promise<void> {
  await tx.execute(
    sql`select pg_advisory_xact_lock(hashtextextended(${"order of " + stateId}, 0))`,
  );
}

const inState = (stateId: string) => and(eq(item.stateId, stateId), isNull(item.withdrawnAt));

/**
 * A rank at the top of a state's order, directly below one of its items, or (where `below` is
 * "last") at the bottom.
 */
export async function placeInState(
  tx: Transaction,
  viewer: Doer,
  stateId: string,
  below: { itemId: string } | "first" | "last",
): Promise<Rank> {
  await lockOrder(tx, stateId);
  if (below === "last") {
    const [last] = await tx
      .select({ rank: item.rank })
      .from(item)
      .where(inState(stateId))
      .orderBy(desc(item.rank))
      .limit(1);
    return rankBetween(last?.rank ?? null, null);
  }
  let above: Rank | null = null;
  if (below !== "first") {
    const [neighbour] = await tx
      .select({ rank: item.rank })
      .from(item)
      .where(and(inState(stateId), eq(item.id, below.itemId), seesItem(tx, viewer)));
    if (!neighbour)
      throw invalid("The item to stand below is not there any more.", "Choose another place.");
    above = neighbour.rank;
  }
  const [next] = await tx
    .select({ rank: item.rank })
    .from(item)
    .where(and(inState(stateId), above === null ? undefined : gt(item.rank, above)))
    .orderBy(asc(item.rank))
    .limit(1);
  return rankBetween(above, next?.rank ?? null);
}
