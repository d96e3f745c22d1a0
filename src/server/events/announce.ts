import { subjectOf, VERSIONS, type Happening } from "@/core/events/catalogue";
import type { Transaction } from "@/db/connection";
import { domainEvent } from "@/db/schema";

/** The row of an event that is about to be told. */
export const eventRowOf = (
  projectId: string,
  happening: Happening,
  at: number,
): Omit<typeof domainEvent.$inferInsert, "id" | "tx"> => ({
  projectId,
  at,
  kind: happening.kind,
  version: VERSIONS[happening.kind],
  data: happening.data,
  ...subjectOf(happening),
});

/**
 * Tells whoever listens what happened, once the transaction is stored. With the store of items,
 * which tells in the statement that writes, the one place that does.
 */
export async function announce(
  tx: Transaction,
  projectId: string,
  happening: Happening,
  at = Date.now(),
): Promise<void> {
  await announceAll(tx, [{ projectId, happening }], at);
}

/** Tells of several happenings at once. */
export async function announceAll(
  tx: Transaction,
  all: readonly { projectId: string; happening: Happening }[],
  at: number,
): Promise<void> {
  if (all.length === 0) return;
  await tx
    .insert(domainEvent)
    .values(all.map(({ projectId, happening }) => eventRowOf(projectId, happening, at)));
}
