/** How an alert stands with its reader. */
export type AlertStanding = "new" | "read" | "later" | "done";

/** Which alerts are wanted: those to be looked at, those that are put off, those that are done. */
export const ALERT_SHELVES = ["open", "later", "done"] as const;
export type AlertShelf = (typeof ALERT_SHELVES)[number];

/** One thing that an alert tells. */
export interface AlertLine {
  /** Who did it; null where nobody did, or the words say it. */
  who: string | null;
  words: string;
  /** The beginning of what was said with it. */
  said: string | null;
  /** The comment that it is about. */
  commentId: string | null;
  at: number;
  /** All items that it is about and may be seen, by their ids; none where it is about one alone. */
  ids: string[];
}

/** What somebody is told of one item. */
export interface AlertView {
  id: string;
  standing: AlertStanding;
  /** Why they are told, the closest reason first. */
  why: string[];
  lines: AlertLine[];
  firstAt: number;
  lastAt: number;
  laterUntil: number | null;
}

/** An item with the alerts about it, the latest first. */
export interface AlertGroup {
  itemKey: string;
  projectKey: string;
  title: string;
  typeId: string;
  stateName: string;
  alerts: AlertView[];
}

export interface AlertsView {
  groups: AlertGroup[];
  /** How many are new, on all pages. */
  fresh: number;
  /** Where the next page begins; null where this is the last. */
  next: string | null;
}
