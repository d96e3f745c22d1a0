import type { Instant } from "@/core/calendar/instant";
import type { TermKind } from "@/core/item/terms/term";

/** A word that is called otherwise from now on. */
export interface Renaming {
  projectId: string;
  kind: TermKind;
  from: string;
  to: string;
  at: Instant;
  byId: string;
}
