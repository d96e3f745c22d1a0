import type { LimitCounting } from "../board/limit-counting";

export type StateId = string;

export const STATE_KINDS = ["unstarted", "waiting", "working", "finished"] as const;
/** Waiting and working are both in progress; the difference is what flow efficiency measures. */
export type StateKind = (typeof STATE_KINDS)[number];

export const OUTCOMES = [
  "delivered",
  "duplicate",
  "cannot reproduce",
  "declined",
  "obsolete",
] as const;
export type Outcome = (typeof OUTCOMES)[number];

/** What must be true on entering or leaving a state, ticked by people on the item. */
export interface Policy {
  id: string;
  text: string;
}

export interface State {
  id: StateId;
  name: string;
  kind: StateKind;
  /**
   * The stretch of the process this state belongs to, e.g. "Review"; states of one stage stand side
   * by side on a board.
   */
  stage: string | null;
  /** Order along the process, ascending. */
  position: number;
  /** The team that works here; null for whoever is there. */
  teamId: string | null;
  /** Whether the reviewer works in it: then what is in it is in their hands, not the assignee's. */
  byReviewer: boolean;
  /** How long an item is expected to stay, and from when on it has stayed too long, in days. */
  expectedDays: number | null;
  tooOldDays: number | null;
  /** How many items may be here, and how many should be; one of both at least. */
  limit: StateLimit | null;
  entryPolicies: Policy[];
  exitPolicies: Policy[];
  /** Of a finished state: how items may end here. Empty: in any way. */
  outcomes: Outcome[];
}

/**
 * How many items a state takes; what is firm refuses a move, the rest is advice. How it counts is
 * left out where that is plain.
 */
export interface StateLimit extends Partial<
  Pick<LimitCounting, "unit" | "level" | "fixedDatePasses">
> {
  max: number | null;
  /** Of the maximum. */
  firm: boolean;
  min: number | null;
  minFirm: boolean;
}

/** What a state is unless somebody says otherwise. */
export const PLAIN_STATE = {
  stage: null,
  teamId: null,
  byReviewer: false,
  expectedDays: null,
  tooOldDays: null,
  limit: null,
  entryPolicies: [],
  exitPolicies: [],
  outcomes: [],
} satisfies Partial<State>;

/** Whether work on what is in such a state has begun and is not finished. */
export function isInProgress(kind: StateKind): boolean {
  return kind === "waiting" || kind === "working";
}
