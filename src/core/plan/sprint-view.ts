import type { Instant } from "@/core/calendar/instant";
import type { Day } from "@/core/calendar/month";
import type { SprintTerm, SprintUnit } from "./sprint-ledger";
import type { PlannedSprint, SprintStanding } from "./sprint";

/** Items behind a figure: those that this person sees, and how many more count. */
export interface Counted {
  ids: string[];
  unseen: number;
}

/** A term of what changed on a day, or in all. */
export interface TermTotal extends Counted {
  change: Partial<Record<SprintUnit, number>>;
}

export type TermTotals = Partial<Record<SprintTerm, TermTotal>>;

export interface SprintDayView {
  day: Day;
  works: boolean;
  /** At its end; null where it has not come. */
  left: Record<SprintUnit, number> | null;
  scope: Record<SprintUnit, number> | null;
  /** What would be left if it fell evenly over the working days. */
  even: Record<SprintUnit, number>;
  /** What changed it in the course of the day: by size, and by the hours that are left. */
  terms: TermTotals;
  hourTerms: TermTotals;
}

/** That something came into a sprint behind its start, or went out of it. */
export interface ScopeChange {
  at: Instant;
  kind: "added" | "taken out";
  /** Null: nobody, it happened by itself. */
  who: string | null;
  /** How it came, where nobody just planned it so. */
  how: string | null;
  /** Null where whoever looks may not see it. */
  item: { id: string; key: string; title: string; points: number | null } | null;
  /** Number of the event that did it. */
  seq: number;
  /** What was said of it. */
  why: string | null;
  /** Whether somebody did it by hand: then it has a reason. */
  asked: boolean;
}

/** An item that is open in a sprint. */
export interface OpenInSprint {
  id: string;
  key: string;
  title: string;
  typeId: string;
  stateName: string;
  estimate: number | null;
}

/** What a past sprint came to. */
export interface PastSprint {
  id: string;
  name: string;
  committed: number;
  velocity: number;
}

/** A sprint with its figures, by its history up to now or to the end of its last day. */
export interface SprintView {
  project: { key: string; name: string; zone: string };
  sprint: PlannedSprint & {
    standing: SprintStanding;
    reached: boolean | null;
    words: string;
    endedBy: string | null;
  };
  /** All of the project, in the order of their days. */
  sprints: { id: string; name: string; startsOn: Day; endsOn: Day; standing: SprintStanding }[];
  /** What was left at its start; null before it. */
  begins: Record<SprintUnit, number> | null;
  days: SprintDayView[];
  outcome: {
    committed: Counted & { points: number };
    added: Counted;
    takenOut: Counted;
    delivered: Counted;
    carriedOver: Counted;
    unsized: Counted;
    interruptions: Counted;
    velocity: number;
  } | null;
  /** The latest first. */
  scopeChanges: ScopeChange[];
  /** Those that ended before it, the oldest first. */
  past: PastSprint[];
  /** Open in it now, as far as this person sees it, and how many more. */
  open: OpenInSprint[];
  openUnseen: number;
  /** Those that what is open could go to. */
  next: { id: string; name: string }[];
  /** Who may plan it; who may say why something came into it. */
  rights: { plan: boolean; edit: boolean };
  now: Instant;
}
