import type { AroundItems } from "@/core/board/around";
import type { Astray } from "@/core/board/astray";
import type { Card } from "@/core/board/card";
import type { CountedLimit } from "@/core/board/board-limits";
import type { Column } from "@/core/board/column";
import type { ItemType } from "@/core/item/item-type";
import type { OwnField } from "@/core/item/own-field";
import type { RosterPerson } from "@/core/people/roster";
import type { StateId } from "@/core/workflow/state";
import type { Workflow } from "@/core/workflow/workflow";
import type { FactValue } from "@/core/condition/facts";
import type { Vocabulary } from "@/core/condition/vocabulary";
import type { BacklogLook } from "./backlog-look";
import type { PlanSettings } from "./plan-settings";
import type { Listed, PlannedSprint, Release } from "./sprint";

/** So many rows of a backlog come at a time. */
export const BACKLOG_PAGE = 100;

/**
 * What is in a sprint or release: how much is open, how much of that this person may not see, and how
 * much there is with what is finished.
 */
export interface TimeboxTotal {
  items: number;
  points: number;
  unseen: number;
  all: { items: number; points: number };
}

/** Everything about a backlog but its rows. */
export interface BacklogView {
  project: { id: string; key: string; name: string; zone: string };
  /** How many items this person sees in it. */
  total: number;
  /** What has been started and stands in no column of the board. */
  astray: Astray;
  /** The column that items are pulled into, and how many it holds. */
  pulledInto: { column: Column; limit: CountedLimit | null; holds: number } | null;
  /** The states of each column of the board, from the first to the last. */
  columns: StateId[][];
  /** The states in which items wait to be begun, in the order of their workflows. */
  waiting: { id: StateId; name: string }[];
  /** How this person looks at it. */
  look: BacklogLook;
  /** By the id of the sprint or release; what nothing is in is left out. */
  totals: Record<string, TimeboxTotal>;
  workflows: Workflow[];
  types: ItemType[];
  people: RosterPerson[];
  /** None where the project plans without any. */
  sprints: Listed<PlannedSprint>[];
  settings: PlanSettings;
  releases: Listed<Release>[];
  ownFields: OwnField[];
  /** What can be asked of items. */
  vocabulary: Vocabulary;
  /** What this person may do here. */
  rights: { move: boolean; edit: boolean; design: boolean };
  now: number;
}

/** Rows of a backlog, best first. */
export interface BacklogRows {
  cards: Card[];
  /** What stands around them. */
  around: AroundItems;
  /** What each of them says, in the order of the columns that were asked for; by its id. */
  values: Record<string, FactValue[]>;
  /** What they stand under, where that is a column; by their ids. */
  parents: Record<string, { key: string; title: string }>;
  /** The place where the next ones begin; null at the end. */
  next: string | null;
  /** How many there are in this part, like what is asked for; null where that is all that waits. */
  matching: number | null;
}
