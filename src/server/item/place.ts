import { and, asc, desc, eq, gt, inArray, isNull, lt, sql } from "drizzle-orm";
import type { ItemSnapshot } from "@/core/item/fields";
import { rankBetween, type Neighbours, type Rank } from "@/core/item/rank";
import type { Transaction } from "@/db/connection";
import { item } from "@/db/schema";
import { seesItem } from "../people/access";
import type { Principal } from "../people/viewer";
import { invalid } from "../refused";
import type { Place } from "./errand";

/*
 * Places in the one order of all items. A list shows some of them; what is dropped in it stands
 * directly after its neighbour there, before whatever else comes next.
 */

/** One at a time gives out places, so that two people never get the same one. */
export async function lockOrder(tx: Transaction): Promise<void> {
  await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended('order of items', 0))`);
}

const inState = (stateId: string) => and(eq(item.stateId, stateId), isNull(item.withdrawnAt));

/** Where an item stands, or will. */
type Standing = Pick<ItemSnapshot, "projectId" | "stateId">;

/**
 * A rank on top of a state's order, directly below or above an item of the same project, whatever
 * its state (lists show items of several), or (where `place` is "last") at the end of all.
 */
export async function placeInState(
  tx: Transaction,
  by: Principal,
  { projectId, stateId }: Standing,
  place: Place,
): Promise<Rank> {
  await lockOrder(tx);
  if (place === "last") return rankBetween(await rankAbove(tx, null), null);
  if (place === "first") {
    const [top] = await tx
      .select({ rank: item.rank })
      .from(item)
      .where(inState(stateId))
      .orderBy(asc(item.rank))
      .limit(1);
    const below = top?.rank ?? null;
    return rankBetween(await rankAbove(tx, below), below);
  }
  const isBelow = "below" in place;
  const there = and(eq(item.projectId, projectId), isNull(item.withdrawnAt), seesItem(tx, by));
  const [neighbour] = await tx
    .select({ rank: item.rank })
    .from(item)
    .where(and(eq(item.id, isBelow ? place.below : place.above), there));
  if (!neighbour)
    throw invalid(
      `The item to stand ${isBelow ? "below" : "above"} is not there any more.`,
      "Choose another place.",
    );
  const { rank } = neighbour;
  if (isBelow) return rankBetween(rank, await rankBelow(tx, rank));
  return rankBetween(await rankAbove(tx, rank), rank);
}

/** The item that stands last in its state, where something is to stand behind it. */
export async function lastRanked(tx: Transaction, stateId: string): Promise<string | null> {
  const [last] = await tx
    .select({ id: item.id })
    .from(item)
    .where(inState(stateId))
    .orderBy(desc(item.rank))
    .limit(1);
  return last?.id ?? null;
}

/** The next rank above one, or the last of all. */
async function rankAbove(tx: Transaction, below: Rank | null): Promise<Rank | null> {
  const [found] = await tx
    .select({ rank: item.rank })
    .from(item)
    .where(below === null ? undefined : lt(item.rank, below))
    .orderBy(desc(item.rank))
    .limit(1);
  return found?.rank ?? null;
}

async function rankBelow(tx: Transaction, above: Rank): Promise<Rank | null> {
  const [found] = await tx
    .select({ rank: item.rank })
    .from(item)
    .where(gt(item.rank, above))
    .orderBy(asc(item.rank))
    .limit(1);
  return found?.rank ?? null;
}

/** The ranks of some items, and what stands next to them in the order of all. */
export async function ranksAround(
  tx: Transaction,
  itemIds: readonly string[],
): Promise<{ rankOf: ReadonlyMap<string, Rank>; neighbours: Neighbours }> {
  await lockOrder(tx);
  const above = sql<Rank | null>`(select max(a.rank) from item a where a.rank < item.rank)`;
  const below = sql<Rank | null>`(select min(b.rank) from item b where b.rank > item.rank)`;
  const rows = await tx
    .select({ id: item.id, rank: item.rank, above, below })
    .from(item)
    .where(inArray(item.id, [...itemIds]));
  const byRank = new Map(rows.map((r) => [r.rank, r]));
  return {
    rankOf: new Map(rows.map((r) => [r.id, r.rank])),
    neighbours: {
      above: (rank) => byRank.get(rank)?.above ?? null,
      below: (rank) => byRank.get(rank)?.below ?? null,
    },
  };
}
