import type { FactName } from "@/core/condition/facts";
import type { AroundItems } from "./around";
import type { CountedLimit } from "./board-limits";
import type { Column } from "./column";
import type { ItemType } from "@/core/item/item-type";
import type { OwnField } from "@/core/item/own-field";
import type { RosterPerson } from "@/core/people/roster";
import type { Listed, Release, Sprint } from "@/core/plan/sprint";
import type { StateId } from "@/core/workflow/state";
import type { Workflow } from "@/core/workflow/workflow";
import type { Card } from "./card";
import type { ColumnsBy, Places } from "./columns-by";
import type { FinishedGroup } from "./finished";

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
  /** States that other boards of the project show. */
  shownElsewhere: StateId[];
  cards: Card[];
  /** What has finished and stands on the board, whether its cards are here or not. */
  finished: FinishedGroup[];
  /** Whether the cards of everything finished are here. */
  finishedWhole: boolean;
  /** The number that is added up of what has finished. */
  sum: FactName | null;
  around: AroundItems;
  /** Items in progress that the board counts and this person may not see, by state. */
  hidden: Record<string, number>;
  /** Its limits and those of people, with what counts against each beside the cards here. */
  limits: CountedLimit[];
  /** What an item without a size counts for. */
  defaultSize: number;
  /** Whether this person sees all items; otherwise counts are of more than they may see. */
  seesAll: boolean;
  workflows: Workflow[];
  types: ItemType[];
  people: RosterPerson[];
  /** Above the projects, who works in each of them, by its key; null in a project. */
  membersOf: Readonly<Record<string, readonly string[]>> | null;
  teams: { id: string; name: string }[];
  sprints: Listed<Sprint>[];
  releases: Listed<Release>[];
  ownFields: OwnField[];
  /** What this person may do here. */
  rights: {
    move: boolean;
    edit: boolean;
    overrideLimits: boolean;
    design: boolean;
    intake: boolean;
    /** Make items here. */
    add: boolean;
  };
  /** Number of the last announced change that is in this view; a stream goes on from here. */
  lastEventId: number;
  now: number;
}

/** What of a board is not as it was, after something happened to some items. */
export interface BoardChanges extends Pick<BoardView, "cards" | "hidden" | "limits"> {
  /** Of these items, and of no others. */
  around: AroundItems;
  /** Null where it was not asked for. */
  finished: FinishedGroup[] | null;
}
