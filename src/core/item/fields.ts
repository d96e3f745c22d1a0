import type { Instant, Interval } from "@/core/calendar/instant";
import type { OwnValues } from "./own-field";
import type { Outside } from "./outside";
import type { Outcome, StateId, StateKind } from "@/core/workflow/state";
import type { Milestones } from "./start-finish";

export const SEVERITIES = ["minor", "moderate", "major", "critical"] as const;
export type Severity = (typeof SEVERITIES)[number];

export const PRIORITIES = ["low", "normal", "high", "urgent"] as const;
export type Priority = (typeof PRIORITIES)[number];

export const CLASSES_OF_SERVICE = ["expedite", "fixed date", "standard", "intangible"] as const;
export type ClassOfService = (typeof CLASSES_OF_SERVICE)[number];

export const ORIGINS = ["planned", "unplanned"] as const;
export type Origin = (typeof ORIGINS)[number];

export const LINK_KINDS = ["duplicates", "relates to", "came from"] as const;
export type LinkKind = (typeof LINK_KINDS)[number];

/** The fields of an item that a person edits directly. */
export interface EditableFields {
  title: string;
  description: string;
  typeId: string;
  severity: Severity | null;
  priority: Priority;
  classOfService: ClassOfService;
  origin: Origin;
  estimate: number | null;
  teamId: string | null;
  assigneeId: string | null;
  reviewerId: string | null;
  place: string | null;
  howToTest: string | null;
  /** ISO 8601 calendar date */
  dueOn: string | null;
  sprintId: string | null;
  releaseId: string | null;
  labels: string[];
  /** Seen only by leads, by whoever made it and by those who work on it. */
  restricted: boolean;
  /** Work that is still to be done, in hours. */
  remainingHours: number | null;
}
export type EditableField = keyof EditableFields;

export const FIELD_WORDS: Record<EditableField | "outcome" | "parentId", string> = {
  title: "title",
  description: "description",
  typeId: "type",
  severity: "severity",
  priority: "priority",
  classOfService: "class of service",
  origin: "origin",
  estimate: "estimate",
  teamId: "team",
  assigneeId: "assignee",
  reviewerId: "reviewer",
  place: "place",
  howToTest: "how to test",
  dueOn: "due date",
  sprintId: "sprint",
  releaseId: "release",
  labels: "labels",
  restricted: "who sees it",
  remainingHours: "remaining work",
  outcome: "outcome",
  parentId: "parent",
};

/** Why an item cannot go on. */
export interface OpenBlocker {
  id: string;
  cause: string;
  /** Whom or what it waits for, in words. */
  waitingFor: string | null;
  since: Instant;
}

/** A point of a state's agreement that somebody found true. */
export interface Tick {
  policyId: string;
  byId: string | null;
  at: Instant;
}

/** Somebody's yes to where the item is now. */
export interface Approval {
  byId: string;
  /** The role they had then. */
  role: "lead" | "member";
  at: Instant;
}

/**
 * Everything known of an item now: what replaying its events gives, and what the item's row stores.
 */
export interface ItemSnapshot extends EditableFields, Milestones {
  id: string;
  projectId: string;
  number: number;
  parentId: string | null;
  /** Fields of the project's own that say something. */
  own: OwnValues;
  /** What is known of it from outside. */
  outside: Outside;
  stateId: StateId;
  stateKind: StateKind;
  enteredStateAt: Instant;
  rank: string;
  outcome: Outcome | null;
  /**
   * Each stretch from a commitment to the finish or the return to unstarted; the last may be open.
   */
  clock: Interval[];
  /** Backward moves so far. */
  returns: number;
  /** Since when the item has been blocked without a break; null while it is not. */
  blockedSince: Instant | null;
  openBlockers: OpenBlocker[];
  /** Both are about the state the item is in, and begin anew in the next. */
  ticks: Tick[];
  approvals: Approval[];
  /**
   * Set when the item was taken back as if it had never been accepted; it is then in no list, and
   * only what it had been started for stays in the figures of the past.
   */
  withdrawnAt: Instant | null;
  createdAt: Instant;
  createdBy: string | null;
  updatedAt: Instant;
  /** Number of the last event that is in this snapshot. */
  version: number;
}
