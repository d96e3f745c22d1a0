import { subjectOf, VERSIONS, type Happening } from "@/core/events/catalogue";
import type { Transaction } from "@/db/connection";
import { domainEvent } from "@/db/schema";

/**
 * Tells whoever listens what happened, once the transaction is stored: the one place that writes
 * events.
 */
export async function announce(
  tx: Transaction,
  projectId: string,
  happening: Happening,
  at = Date.now(),
): Promise<void> {
  await tx.insert(domainEvent).values({
    projectId,
    at,
    kind: happening.kind,
    version: VERSIONS[happening.kind],
    data: happening.data,
    ...subjectOf(happening),
  });
}
