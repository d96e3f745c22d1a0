import type { Instant } from "@/core/calendar/instant";
import type { Transaction } from "@/db/connection";
import type { Speaker } from "../events/speakers";

/** Where an event of a code host is taken in. */
export interface Taking {
  tx: Transaction;
  source: Speaker;
  repositoryId: string;
  now: Instant;
}
