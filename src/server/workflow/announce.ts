import { eq, sql } from "drizzle-orm";
import type { Transaction } from "@/db/connection";
import { board, outbox } from "@/db/schema";

/**
 * Tells open pages that the process changed; boards count a version too, so that two editors notice
 * each other.
 */
export async function announceDesign(tx: Transaction, projectId: string): Promise<void> {
  await tx
    .update(board)
    .set({ version: sql`${board.version} + 1` })
    .where(eq(board.projectId, projectId));
  await tx.insert(outbox).values({ projectId, at: Date.now(), kind: "design" });
}
