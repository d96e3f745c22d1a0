import type { Instant } from "@/core/calendar/instant";
import type { Transaction } from "@/db/connection";

/** Where an event of a code host is taken in. */
export interface Taking {
  tx: Transaction;
  source: { id: string; projectId: string };
  repositoryId: string;
  now: Instant;
}
