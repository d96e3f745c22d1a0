import type { Days } from "@/core/calendar/instant";
import type { Day } from "@/core/calendar/month";
import type { PieceProgress } from "./piece-progress";
import type { Reach, Sureness } from "@/core/forecast/reach";

/** From how many past weeks the reach may be drawn. */
export const REACH_WEEKS = [8, 12, 26, 52] as const;
export const USUAL_REACH_WEEKS = 12;

/** In how many days from today all of something will be finished; null: beyond what can be said. */
export type Until = Record<Sureness, number | null>;

/** A large piece of work with how far it is: its stories, whatever their state. */
export interface LargePiece extends PieceProgress {
  id: string;
  key: string;
  title: string;
  typeId: string;
  dueOn: Day | null;
  started: boolean;
}

/** How far down its backlog a project will probably get, and what that means for what is planned. */
export interface ReachView {
  /** From which the days are counted. */
  today: Day;
  /** Null where there is too little past to foretell anything. */
  reach: Reach | null;
  past: { weeks: number; finished: number };
  /** Items in progress, which go before the first row. */
  ahead: number;
  /** So many days 85 %, and half, take from commitment to finish. */
  took: Record<Sureness, Days | null>;
  /** Rows that this person does not see: of each, how many that they see stand before it. */
  hiddenAfter: number[];
  /** By the id of a sprint, a release or a large piece with open items. */
  until: Record<string, Until>;
  /** Open large pieces, best first. */
  pieces: LargePiece[];
}
