import type { Instant } from "@/core/calendar/instant";

/*
 * Going through a board together: one item after another, with what holds it and what was agreed.
 */

/** In which order the items of a board are gone through. */
export const WALK_ORDERS = ["from the end", "by person", "by story"] as const;
export type WalkOrder = (typeof WALK_ORDERS)[number];

/** So many minutes a walk takes, unless somebody says otherwise. */
export const USUAL_MINUTES = 15;

/** What was said of an item on a walk: agreed on, or left for later. */
export interface WalkNote {
  id: string;
  kind: "agreed" | "later";
  itemId: string;
  key: string;
  title: string;
  text: string;
  /** Who does it; null: nobody in particular. */
  owner: { id: string; name: string } | null;
  /** By when, ISO 8601. */
  dueOn: string | null;
}

/** A walk of a board, running or over. */
export interface Walk {
  id: string;
  order: WalkOrder;
  /** So long it is meant to take. */
  minutes: number;
  /** Who leads it, or led it last. */
  ledBy: { id: string; name: string };
  startedAt: Instant;
  endedAt: Instant | null;
  /** The item that everybody looks at; null: none yet, or one that this person may not see. */
  itemId: string | null;
  /** Items that were looked at, or passed by. */
  seen: string[];
  notes: WalkNote[];
}

/** What somebody needs to walk a board. */
export interface WalkView {
  running: Walk | null;
  /** Walks that are over, the latest first. */
  past: Walk[];
  /** What earlier walks left for later, and no walk has taken up since. */
  left: WalkNote[];
  now: Instant;
}
