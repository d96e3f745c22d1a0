import type { Day } from "@/core/calendar/month";
import type { StateKind } from "@/core/workflow/state";
import type { PieceProgress } from "./piece-progress";
import type { Until } from "./reach-view";
import type { BurnUpDayView } from "./release-view";

/** A large piece in the tree. */
export interface TreePiece {
  id: string;
  key: string;
  title: string;
  typeId: string;
  level: number;
  version: number;
  /** Null: it stands under nothing that whoever looks may see. */
  parentId: string | null;
  stateName: string;
  stateKind: StateKind;
  dueOn: Day | null;
  /** By what is under it, unless somebody planned it by hand. */
  from: Day | null;
  to: Day | null;
  byHand: boolean;
  progress: PieceProgress;
  /** When all of it will probably be finished, in days from today; null where nothing can be said. */
  until: Until | null;
}

/** A story, or whatever is planned, that stands directly under a large piece. */
export interface TreeStory {
  id: string;
  key: string;
  title: string;
  typeId: string;
  version: number;
  stateName: string;
  stateKind: StateKind;
  points: number | null;
  assignee: string | null;
}

export interface PieceTreeView {
  project: { key: string; name: string };
  today: Day;
  /** What the project calls its levels, from the lowest. */
  levels: string[];
  /** In the order of their rank: a parent before what is under it. */
  pieces: TreePiece[];
  /** Open stories that stand under no large piece. */
  loose: { items: number; ids: string[] };
  rights: { edit: boolean; rank: boolean };
}

/** A large piece with what stands directly under it, and how it got on. */
export interface PieceDetail {
  id: string;
  stories: TreeStory[];
  /** Stories under it, at whatever depth, that whoever looks does not see. */
  unseen: number;
  days: BurnUpDayView[];
}
