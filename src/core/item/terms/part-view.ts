import type { UsedTerm } from "./view";

/** An item as a line of a part's page. */
export interface PartItem {
  id: string;
  key: string;
  title: string;
  typeId: string;
  stateName: string;
  assignee: string | null;
}

/** Some of the items that a list has, the first of them, and how many there are. */
export interface PartItems {
  items: PartItem[];
  count: number;
}

/** So many lines each list of a part shows. */
export const PART_LINES = 30;

/** What counts as lately, in days. */
export const LATELY_DAYS = 30;

/** A part of the product: what is open about it, what came lately, and what was finished. */
export interface PartView {
  project: { key: string; name: string; zone: string };
  part: UsedTerm;
  owner: string | null;
  open: PartItems;
  /** What was made lately, the latest first. */
  came: PartItems;
  /** What was finished lately, the latest first. */
  finished: PartItems;
  /** Reports that nobody has judged yet and that seem to be about it, the latest first. */
  reports: { id: string; reference: string; title: string; receivedAt: number; why: string }[];
}
