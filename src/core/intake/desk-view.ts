import type { GoesOut } from "@/core/plan/goes-out";
import type { FormAnswer } from "./form";
import type { GivenLately } from "./found-report";
import type { PartSuggestion } from "./part-suggestion";
import type { ReturnReason } from "./report-history";
import type { Progress, ReportStatus, ReportWay } from "./report";
import type { Reproducible, ReproductionResult } from "./reproduction";
import type { TargetState } from "./service-target";
import type { TriageRules } from "./triage-rules";
import type { VerdictKind } from "./verdict";

/** A report in the list of the triage desk. */
export interface QueueRow {
  id: string;
  reference: string;
  title: string;
  place: string;
  receivedAt: number;
  returnedAt: number | null;
  /** What brought it back; null where nothing did. */
  returnedWhy: ReturnReason | null;
  /** Whether it sounds like a hole in security. */
  hole: boolean;
  status: ReportStatus;
  parkedUntil: string | null;
  /**
   * Key of the item whose finish ends the parking; null where it waits for a day, or for an item
   * outside the reader's view.
   */
  parkedFor: string | null;
  way: ReportWay;
  teamId: string | null;
  /** Parts of the product that it is taken to be about. */
  parts: string[];
  version: number;
  /** What was promised next about it: a first answer or, once that was given, that it is done. */
  promise: { target: string; what: "answer" | "done"; state: TargetState } | null;
  /** Who else has it open now, by name. */
  readers: string[];
}

export interface Named {
  id: string;
  name: string;
}
export interface KeyedItem {
  id: string;
  key: string;
  title: string;
}

export interface DeskView {
  project: { id: string; key: string; name: string; zone: string };
  queue: QueueRow[];
  /** Asked and waiting for an answer, or parked. */
  aside: QueueRow[];
  types: Named[];
  people: (Named & { calling: string | null; role: string; load: number; limit: number | null })[];
  teams: Named[];
  backlogTop: KeyedItem[];
  /** What a bug can have been found in: work in progress, and what was finished lately. */
  inWork: KeyedItem[];
  finishedLately: KeyedItem[];
  sprints: Named[];
  releases: Named[];
  /** Where items of the project are, those with most items first. */
  areas: string[];
  rules: TriageRules;
  rulesVersion: number;
  /** How long the latest verdicts took, in milliseconds. */
  took: number[];
  /** What the reader gave lately and may undo, the latest first. */
  given: GivenLately[];
  /** The desks of other projects, with what waits there. */
  desks: { key: string; name: string; waiting: number }[];
  mayJudge: boolean;
  maySetRules: boolean;
  now: number;
}

export interface SimilarItem {
  id: string;
  key: string;
  title: string;
  stateName: string;
  progress: Progress;
  score: number;
  reasons: string[];
  /** The release that it is in. */
  goesOut: GoesOut | null;
}

export interface ReportView {
  report: {
    id: string;
    reference: string;
    title: string;
    happened: string;
    reproduce: string;
    place: string;
    mail: string;
    way: ReportWay;
    status: ReportStatus;
    teamId: string | null;
    parkedUntil: string | null;
    declineReason: string | null;
    itemId: string | null;
    receivedAt: number;
    returnedAt: number | null;
    version: number;
    answers: FormAnswer[];
  };
  /** Parts of the product that somebody said it is about; null where nobody has. */
  saidParts: string[] | null;
  /** Parts that it is taken to be about. */
  parts: string[];
  /** Parts that it seems to be about. */
  suggested: PartSuggestion[];
  /** The type that its form says. */
  typeId: string | null;
  files: { id: string; name: string; picture: boolean; size: number }[];
  messages: { kind: string; body: string; at: number; author: string | null }[];
  /**
   * The latest first; what they named stays with them, as it may be more than the reader may see.
   */
  verdicts: {
    id: string;
    kind: VerdictKind;
    by: string | null;
    at: number;
    undoneAt: number | null;
  }[];
  tries: {
    id: string;
    by: string;
    at: number;
    tried: string;
    version: string;
    steps: string;
    result: ReproductionResult;
    note: string;
    mine: boolean;
  }[];
  reproducible: Reproducible;
  /** What brought it back last, with what is new; null where nothing did, or it is not to be seen. */
  broughtBack: { why: ReturnReason; key: string; id: string; about: "report" | "item" } | null;
  followers: number;
  similar: SimilarItem[];
  similarReports: {
    id: string;
    reference: string;
    title: string;
    status: ReportStatus;
    score: number;
    reasons: string[];
    itemId: string | null;
  }[];
  earlier: { id: string; reference: string; title: string; status: ReportStatus }[];
  /** Delivered in the last two weeks, nearest to what it is about first. */
  deployed: { key: string; title: string; at: number; samePlace: boolean }[];
  itemKey: string | null;
  /** With which release that goes out. */
  goesOut: GoesOut | null;
}
