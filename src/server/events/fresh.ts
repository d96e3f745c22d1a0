import type { Instant } from "@/core/calendar/instant";
import type { Transaction } from "@/db/connection";
import { receivedEvent } from "@/db/schema";

/**
 * Notes events of a source as taken. @returns those that were not taken before
 */
export async function freshAmong(
  tx: Transaction,
  sourceId: string,
  eventIds: readonly string[],
  at: Instant,
): Promise<Set<string>> {
  const rows = await tx
    .insert(receivedEvent)
    // In one order, so that two posts of the same events do not wait for each other.
    .values([...new Set(eventIds)].toSorted().map((eventId) => ({ sourceId, eventId, at })))
    .onConflictDoNothing()
    .returning({ id: receivedEvent.eventId });
  return new Set(rows.map(({ id }) => id));
}
