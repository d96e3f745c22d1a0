import type { Visibility } from "@/core/people/authorise";
import type { CountedLimit, LimitChangeView } from "@/core/board/board-limits";
import type { Column } from "@/core/board/column";
import type { DesignedColumns } from "@/core/board/columns-by";
import type { Condition } from "@/core/condition/condition";
import type { Instant } from "@/core/calendar/instant";
import type { ItemType } from "@/core/item/item-type";
import type { CheckSurroundings } from "./finding";
import type { Workflow } from "./workflow";
import type { StateId } from "./state";

/** A draft as it is stored: bound nobody yet. */
export interface DraftView {
  workflowId: string;
  definition: Workflow;
  /** The published version it was begun from. */
  baseVersion: number;
  revision: number;
  by: string;
  at: Instant;
}

/** Somebody of a project, as rules see them. */
export interface ProjectPerson {
  id: string;
  name: string;
  role: "lead" | "member" | "observer";
  teamIds: string[];
}

/** A board as it is designed. */
export interface BoardDesign {
  id: string;
  name: string;
  /** 0 while it is not stored yet. */
  version: number;
  columnsBy: DesignedColumns;
  /** Which items it shows; null: all. */
  scope: Condition | null;
  columns: Pick<Column, "id" | "stage" | "name" | "part" | "stateIds">[];
}

/** The process of a project, as the server tells it and Design shows it. */
export interface DesignView {
  project: {
    id: string;
    key: string;
    name: string;
    zone: string;
    visibility: Visibility;
    expectation: { days: number; share: number };
  };
  board: { id: string; name: string; version: number };
  columns: Column[];
  boards: BoardDesign[];
  types: ItemType[];
  /** What the levels of items are called, from the lowest. */
  levelNames: string[];
  /** Items by their type and the state they are in. */
  countsByType: Record<string, Record<StateId, number>>;
  /** What runs now. */
  workflows: (Workflow & { typeNames: string[] })[];
  drafts: DraftView[];
  /** Workflows that were taken out. */
  removed: { id: string; name: string }[];
  around: CheckSurroundings;
  people: ProjectPerson[];
  /** Items in each state now. */
  counts: Record<StateId, number>;
  /** Every limit of the project's boards, states and people, with what counts against it. */
  limits: CountedLimit[];
  /** What they were from when on, the latest first. */
  limitChanges: LimitChangeView[];
  /** What an item without a size counts for, where limits add up sizes. */
  defaultSize: number;
  versions: {
    workflowId: string;
    version: number;
    at: Instant;
    by: string | null;
    /** Why; may be empty. */
    note: string;
    /** What changed, in words. */
    summary: string;
  }[];
  mayEdit: boolean;
}
