import { and, eq, sql } from "drizzle-orm";
import type { Transaction } from "@/db/connection";
import { item, itemEvent } from "@/db/schema";
import type { Passed } from "./decide-errand";
import type { Errand } from "./errand";
import { lastWithdrawal, openBelow, type Withdrawing } from "./withdraw";

/** What stands under an item that was withdrawn goes with it. */
export async function withdrawBelow(
  tx: Transaction,
  { errand, entered, after }: Passed,
  { below, why }: Withdrawing,
): Promise<Errand[]> {
  if (!below) return [];
  const note = `${entered.access.project.key}-${after.number}, which it stands under, was withdrawn: ${why}`;
  return (await openBelow(tx, after.id)).map((itemId) => ({
    on: { itemId, access: entered.access },
    commandId: errand.commandId,
    ask: { kind: "prepared", command: { kind: "withdraw", note } },
    made: { cause: "follow-up" },
  }));
}

/** What was withdrawn with an item comes back with it. */
export async function bringBackBelow(
  tx: Transaction,
  { errand, entered, after }: Passed,
): Promise<Errand[]> {
  const [last] = await lastWithdrawal(tx, after.id);
  if (!last) return [];
  const rows = await tx
    .select({ id: item.id })
    .from(itemEvent)
    .innerJoin(item, eq(item.id, itemEvent.itemId))
    .where(
      and(
        eq(itemEvent.commandId, last.commandId),
        eq(itemEvent.kind, "withdrawn"),
        eq(itemEvent.cause, "follow-up"),
        sql`${item.withdrawnAt} is not null`,
      ),
    )
    .orderBy(item.id);
  return rows.map(({ id }) => ({
    on: { itemId: id, access: entered.access },
    commandId: errand.commandId,
    ask: { kind: "prepared", command: { kind: "bring back", withdrawnBy: "follow-up" } },
    made: { cause: "follow-up" },
    ifRefused: "leave",
  }));
}
