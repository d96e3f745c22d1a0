import type { Day } from "@/core/calendar/month";
import type { StateKind } from "@/core/workflow/state";
import type { Until } from "./reach-view";
import type { DateChange } from "./release-plan";
import type { Release } from "./sprint";
import type { SizeUnit } from "./sprint-ledger";

/** A release with how much is in it; counts also what whoever looks may not see. */
export interface ReleaseLine extends Release {
  items: number;
  done: number;
  points: number;
  donePoints: number;
  /** How often its day moved, in words; null where it never did. */
  moved: string | null;
}

/** An item in a release, or one that is finished and in none. */
export interface ReleaseItem {
  id: string;
  key: string;
  title: string;
  typeId: string;
  version: number;
  stateId: string;
  stateName: string;
  stateKind: StateKind;
  assignee: string | null;
  points: number | null;
  /** When it was delivered; null where it was not. */
  deliveredOn: Day | null;
}

/** The releases of a project. */
export interface ReleasesView {
  project: { key: string; name: string; zone: string };
  today: Day;
  /** Those to come by their day, then those that are out, the latest first. */
  releases: ReleaseLine[];
  /** Delivered lately and in no release: the latest first. */
  loose: ReleaseItem[];
  /** How many there are in all. */
  looseTotal: number;
  rights: { plan: boolean };
}

/** At the end of a day: all that was in something, and how much of it was finished. */
export interface BurnUpDayView {
  day: Day;
  scope: Record<SizeUnit, number>;
  done: Record<SizeUnit, number>;
}

/** A release with what is in it and how it got ready. */
export interface ReleaseView {
  release: ReleaseLine;
  dates: DateChange[];
  days: BurnUpDayView[];
  /** Open ones first, by rank; only what whoever looks may see. */
  items: ReleaseItem[];
  /** So many more are in it. */
  unseen: number;
  /** In how many days all of it will probably be finished; null where nothing can be said. */
  until: Until | null;
}

/** What was delivered longer ago than so many days is not asked after any more. */
export const LOOSE_DAYS = 42;
/** So many of those are shown. */
export const MOST_LOOSE = 100;
