import type { SQL } from "drizzle-orm";
import type { Transaction } from "@/db/connection";
import { boardColumn } from "@/db/schema";
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
