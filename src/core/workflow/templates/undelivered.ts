import type { Outcome } from "../state";

/** How what is not delivered can end. */
export const FINISHED_UNDELIVERED: Outcome[] = [
  "duplicate",
  "cannot reproduce",
  "declined",
  "obsolete",
];
