import { and, eq, notExists, sql, type SQL } from "drizzle-orm";
import type { Transaction } from "@/db/connection";
import { boardColumn, columnState } from "@/db/schema";
import { endLimits } from "./limits";

/** Removes columns of boards; their limits end with them. */
export async function removeColumns(tx: Transaction, which: SQL | undefined): Promise<void> {
  const gone = await tx.delete(boardColumn).where(which).returning({ id: boardColumn.id });
  await endLimits(
    tx,
    "column",
    gone.map((c) => c.id),
  );
}

/** Of some columns removes those that show no state any more. */
export async function removeEmptyColumns(tx: Transaction, among: SQL): Promise<void> {
  const states = tx
    .select({ one: sql`1` })
    .from(columnState)
    .where(eq(columnState.columnId, boardColumn.id));
  await removeColumns(tx, and(among, notExists(states)));
}
