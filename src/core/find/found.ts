import type { ReportStatus } from "../intake/report";
import type { TextPart } from "./excerpt";
import type { Fit } from "./how-well";

/** By what something was found. */
export type FoundBy = "key" | "title" | "text";

export interface FoundItem {
  id: string;
  key: string;
  title: string;
  stateName: string;
  finished: boolean;
  projectName: string;
  typeId: string;
  assignee: string | null;
  by: FoundBy;
  fit: Fit;
  /** Where the words stand in what is written about it; empty where its title or key says it. */
  excerpt: TextPart[];
}

/** Items that were found, the best first. */
export interface FoundItems {
  rows: FoundItem[];
  /** Where the next ones begin; null at the end. */
  next: string | null;
}

export interface FoundComment {
  id: string;
  itemKey: string;
  title: string;
  author: string;
  at: number;
  excerpt: TextPart[];
}

export interface FoundReport {
  id: string;
  reference: string;
  projectKey: string;
  title: string;
  status: ReportStatus;
  receivedAt: number;
  fit: Fit;
  excerpt: TextPart[];
}

export interface FoundPerson {
  id: string;
  name: string;
  calling: string | null;
  fit: Fit;
}

/** A view or a board: a way of looking at items. */
export interface FoundLook {
  id: string;
  kind: "view" | "board";
  name: string;
  /** Whose items it shows. */
  of: string;
  path: string;
  fit: Fit;
}

export interface FoundPlace {
  name: string;
  /** Of which project it is; empty where it is of none. */
  of: string;
  path: string;
  fit: Fit;
}

/** All that was found. */
export interface Found {
  items: FoundItems;
  comments: FoundComment[];
  reports: FoundReport[];
  people: FoundPerson[];
  looks: FoundLook[];
  places: FoundPlace[];
}

export const NOTHING_FOUND: Found = {
  items: { rows: [], next: null },
  comments: [],
  reports: [],
  people: [],
  looks: [],
  places: [],
};
