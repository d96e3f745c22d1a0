import { eq, sql } from "drizzle-orm";
import type { Happening } from "@/core/events/catalogue";
import type { Transaction } from "@/db/connection";
import { board } from "@/db/schema";
import { announce } from "../events/announce";

/**
 * Tells open pages that the process changed; boards count a version too, so that two editors notice
 * each other.
 */
export async function announceDesign(
  tx: Transaction,
  projectId: string,
  happening: Happening,
): Promise<void> {
  await tx
    .update(board)
    .set({ version: sql`${board.version} + 1` })
    .where(eq(board.projectId, projectId));
  await announce(tx, projectId, happening);
}
