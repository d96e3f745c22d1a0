import { and, desc, eq, inArray, sql } from "drizzle-orm";
import type { ItemCommand } from "@/core/item/command";
import { listWords } from "@/core/formats/list-words";
import type { CommandRequest } from "@/core/item/request";
import { refuse } from "@/core/workflow/refusal";
import type { Transaction } from "@/db/connection";
import { item, itemEvent } from "@/db/schema";
import { hiddenFrom } from "../people/access";
import type { Principal } from "../people/viewer";
import { Refused } from "../refused";
import { parentNow } from "./around";
import { lockInOrder, type EnteredItem } from "./enter";

/*
 * Taking items out as if they had never been accepted, and bringing them back: alone, or with all
 * that stands under them and that nobody has begun. What is finished under one stays what it is.
 */

export type Withdrawing = Extract<CommandRequest, { kind: "withdraw" }>;

/** Everything under an item that is not finished, however deep; its ids in order. */
export async function openBelow(tx: Transaction, id: string): Promise<string[]> {
  const { rows } = await tx.execute<{ id: string }>(sql`
    with recursive below(id) as (
      select ${item.id} from ${item} where ${item.parentId} = ${id}::uuid
        and ${item.withdrawnAt} is null
      union
      select ${item.id} from below join ${item} on ${item.parentId} = below.id
      where ${item.withdrawnAt} is null
    )
    select ${item.id} from below join ${item} on ${item.id} = below.id
    where ${item.stateKind} <> 'finished' order by 1`);
  return rows.map((row) => row.id);
}

/**
 * A withdrawal, with what stands under the item looked at.
 * @throws Refused while something under it is open and does not go with it, or cannot
 */
export async function withdrawing(
  tx: Transaction,
  by: Principal,
  { before, access }: EnteredItem,
  { why, below }: Withdrawing,
): Promise<ItemCommand> {
  const ids = await openBelow(tx, before.id);
  if (ids.length > 0) {
    await lockInOrder(tx, ids);
    const rows = await tx
      .select({
        number: item.number,
        stateKind: item.stateKind,
        hidden: sql<boolean>`coalesce(${hiddenFrom(tx, by)}, false)`,
      })
      .from(item)
      .where(inArray(item.id, ids))
      .orderBy(item.number);
    if (!below || rows.some(({ hidden }) => hidden))
      throw new Refused(
        refuse(
          "in use",
          `${rows.length} ${rows.length === 1 ? "item stands" : "items stand"} under it that ${rows.length === 1 ? "is" : "are"} not finished.`,
          below
            ? "Some of it is outside your view: ask a lead."
            : "Withdraw it with all below it, or put that somewhere else first.",
        ),
      );
    const begun = rows.filter(({ stateKind }) => stateKind !== "unstarted");
    if (begun.length > 0)
      throw new Refused(
        refuse(
          "in use",
          `Work has started on ${listWords(
            begun.slice(0, 5).map(({ number }) => `${access.project.key}-${number}`),
            "and",
          )} under it.`,
          "Close that first, or put it somewhere else.",
        ),
      );
  }
  return { kind: "withdraw", note: why };
}

/** Why and by which command an item was withdrawn last. */
export const lastWithdrawal = (tx: Transaction, itemId: string) =>
  tx
    .select({ cause: itemEvent.cause, commandId: itemEvent.commandId })
    .from(itemEvent)
    .where(and(eq(itemEvent.itemId, itemId), eq(itemEvent.kind, "withdrawn")))
    .orderBy(desc(itemEvent.seq))
    .limit(1);

/** Bringing an item back; why it was withdrawn decides whether that can be. */
export async function bringingBack(tx: Transaction, { before }: EnteredItem): Promise<ItemCommand> {
  const [last] = await lastWithdrawal(tx, before.id);
  const parent = await parentNow(tx, before);
  const leaves =
    parent && parent.projectId !== before.projectId
      ? { parentId: parent.id, key: parent.key }
      : null;
  return { kind: "bring back", withdrawnBy: last?.cause ?? "person", leaves };
}
