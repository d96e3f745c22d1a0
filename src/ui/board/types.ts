import type { ColumnsBy, Places } from "@/core/board/columns-by";
import type { OwnField } from "@/core/item/own-field";
import type { Release, Sprint } from "@/core/plan/sprint";
import type { ItemType } from "@/core/item/item-type";
import type { Card } from "@/core/board/card";
import type { Column } from "@/core/board/column";
import type { Percentiles } from "@/core/flow/report";
import type { Workflow } from "@/core/workflow/workflow";
import type { FrameSummary } from "@/ui/frame/pulse-strip";

/** A board as the server sends it. */
export interface BoardView {
  project: { id: string; key: string; name: string; zone: string };
  board: {
    id: string;
    name: string;
    version: number;
    columnsBy: ColumnsBy;
    scoped: boolean;
    places: Places;
  };
  boards: { id: string; name: string }[];
  columns: Column[];
  cards: Card[];
  /** Items in progress that the board counts and this person may not see, by state. */
  hidden: Record<string, number>;
  /** Open items of sprints and releases that this person may not see, by the box's id. */
  hiddenInBoxes: Record<string, { items: number; points: number }>;
  /** Whether this person sees all items; otherwise counts are of more than they may see. */
  seesAll: boolean;
  workflows: Workflow[];
  types: ItemType[];
  people: { id: string; name: string }[];
  teams: { id: string; name: string }[];
  sprints: Sprint[];
  releases: Release[];
  ownFields: OwnField[];
  rights: {
    move: boolean;
    edit: boolean;
    overrideLimits: boolean;
    design: boolean;
    intake: boolean;
  };
  lastEventId: number;
  now: number;
}

/** The project's summary with what only the board draws from it. */
export interface BoardSummary extends FrameSummary {
  percentiles: Percentiles;
  ladder: Record<string, number | null>;
}
