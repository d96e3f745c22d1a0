import type { EventKind } from "./catalogue";

/**
 * Which part of an open page an event concerns: a card, the desk of those who judge reports, how a
 * project works, which everything on the page may follow from, a draft that binds nobody, the views
 * that people keep, a walk that several are on, signs below a comment, what a code host tells, or what is tested.
 */
export type LivePart =
  "item" | "intake" | "design" | "draft" | "visit" | "view" | "walk" | "talk" | "code" | "tests";

export const LIVE_PART: Readonly<Record<EventKind, LivePart>> = {
  "item changed": "item",
  // Everything that shows its project is read again, as after a change of how it works.
  "item left": "design",
  "report changed": "intake",
  "reports imported": "intake",
  "import taken back": "intake",
  "report opened": "intake",
  "known problem changed": "intake",
  "intake form changed": "design",
  "triage rules changed": "design",
  "mail address changed": "design",
  "workflow made": "design",
  "workflow draft changed": "draft",
  "workflow draft visited": "visit",
  "workflow taken out": "design",
  "workflow brought back": "design",
  "workflow published": "design",
  "item types changed": "design",
  "own fields changed": "design",
  "project changed": "design",
  "terms changed": "design",
  "board changed": "design",
  "plan changed": "design",
  "views changed": "view",
  "walk changed": "walk",
  "talk changed": "talk",
  "code changed": "code",
  "tests changed": "tests",
};
