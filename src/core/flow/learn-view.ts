import type { Instant } from "@/core/calendar/instant";
import type { KeptPromises } from "@/core/intake/kept-promises";
import type { TriageFigures } from "@/core/intake/triage-figures";
import type { State } from "@/core/workflow/state";
import type { DeliveriesView } from "@/core/ship/what-is-where-view";
import type { MiddleOf } from "./shipped";
import type { WeekOfBreaks } from "./limit-breaks";
import type { FlowReport } from "./report";
import type { FlowQuery } from "./request";
import type { UnplannedShare } from "./unplanned";

/** What came in between, and what got past testing, as Learn shows it. */
export interface UnplannedView {
  share: UnplannedShare;
  /** Bugs found in finished work in the period, by the release that it went out with. */
  escaped: { release: string; ids: string[] }[];
  /** Estimate finished in each of the last sprints, the latest last. */
  velocity: { sprint: string; points: number }[];
}

/** The middle of some times, with the items that it is of as far as whoever looks may see them. */
interface MiddleShown extends MiddleOf {
  /** All of them. */
  of: number;
}

/** How what was delivered was reviewed, tested and came to be live, as Learn shows it. */
export interface ShippedView {
  doneToLive: MiddleShown;
  review: MiddleShown;
  test: MiddleShown;
  untested: { ids: string[]; n: number; of: number };
  /** What went live in the period; null where no environment is the live one, or no code is known. */
  deliveries: DeliveriesView | null;
}

export interface LearnView {
  project: { id: string; key: string; name: string; zone: string };
  query: FlowQuery;
  report: FlowReport;
  unplanned: UnplannedView;
  shipped: ShippedView;
  promises: KeptPromises;
  /** What went beyond limits, by weeks, and how often in all: more than is listed. */
  breaks: { weeks: WeekOfBreaks[]; total: number };
  /** Of all reports of the period, whatever type they became; null for those who may not read them. */
  triage: TriageFigures | null;
  /** The period's beginning and end, half-open. */
  period: { from: Instant; to: Instant };
  states: State[];
  types: { id: string; name: string }[];
  from: string;
  to: string;
  now: Instant;
}
