import { z } from "zod";
import type { Instant, Interval } from "@/core/calendar/instant";
import type { OwnValues } from "./own-field";
import type { Outside } from "./outside";
import type { Outcome, StateId, StateKind } from "@/core/workflow/state";
import { criteriaSchema, type Met } from "./criterion";
import type { Milestones } from "./start-finish";
import { termsSchema, type TermKind } from "./terms/term";

export const SEVERITIES = ["minor", "moderate", "major", "critical"] as const;
export type Severity = (typeof SEVERITIES)[number];

export const PRIORITIES = ["low", "normal", "high", "urgent"] as const;
export type Priority = (typeof PRIORITIES)[number];

export const CLASSES_OF_SERVICE = ["expedite", "fixed date", "standard", "intangible"] as const;
export type ClassOfService = (typeof CLASSES_OF_SERVICE)[number];

export const ORIGINS = ["planned", "unplanned"] as const;
export type Origin = (typeof ORIGINS)[number];

export const LINK_KINDS = [
  "duplicates",
  "relates to",
  "came from",
  "waits for",
  "found in",
  "tested by",
] as const;
export type LinkKind = (typeof LINK_KINDS)[number];

const id = z.string().min(1).max(64);
const longText = z.string().max(50_000, "Use at most 50,000 characters.");
/** So many characters a title has at most. */
export const MOST_TITLE = 300;

const hours = z.number().min(0).max(10_000);

/** What of a project a field names by its id. */
export type NamedThings = "types" | "people" | "teams" | "sprints" | "releases";

/** How a field is edited, and with it how it is compared and told. */
export type FieldEditor =
  | { kind: "text"; long?: true }
  | { kind: "number"; unit?: string }
  | { kind: "date" }
  | {
      kind: "choice";
      options: readonly string[] | NamedThings;
      /** What stands where nothing is chosen; without it something always is. */
      none?: string;
      /** What asks for a choice where one is demanded. */
      ask?: string;
    }
  | { kind: "terms"; of: TermKind }
  | { kind: "criteria" }
  | { kind: "flag"; yes: string; no: string };

/** A field of an item that somebody edits, with all that the product knows about it. */
export interface ItemField {
  /** As it stands beside its editor. */
  label: string;
  /** As it stands in a sentence: "changed the due date". */
  words: string;
  schema: z.ZodType;
  /** What a new item says; left out where whoever makes one has to say it. */
  initial?: unknown;
  editor: FieldEditor;
  /** Edited among the others of the item, in a narrow or a wide place; else where it is read. */
  panel?: "narrow" | "wide";
  /** How a condition asks for it: as people read it, and as it is written after `item.`. */
  fact?: { label: string; text: string };
  /** What is said when a move demands it. */
  demand?: { sentence: string; help: string; label: string; what?: string };
  /** Whether a move may set it afterwards: to any of its values, or only to nothing. */
  followUp?: "any value" | "nothing";
}

/**
 * The fields of an item, each described once, in the order in which people see them. What is sent,
 * stored in histories, asked in conditions, demanded and set by moves, said in sentences and edited
 * is made from this table; only its column in the database stands elsewhere.
 */
export const ITEM_FIELDS = {
  title: {
    label: "Title",
    words: "title",
    schema: z
      .string()
      .trim()
      .min(1, "An item needs a title.")
      .max(MOST_TITLE, "Use at most 300 characters."),
    editor: { kind: "text" },
    fact: { label: "title", text: "title" },
  },
  description: {
    label: "Description",
    words: "description",
    schema: longText,
    initial: "",
    editor: { kind: "text", long: true },
    fact: { label: "description", text: "description" },
    demand: {
      sentence: "It needs a description.",
      help: "Say what is to be done and how one sees that it is.",
      label: "Description",
    },
  },
  howToTest: {
    label: "How to test",
    words: "how to test",
    schema: longText.nullable(),
    initial: null,
    editor: { kind: "text", long: true },
    fact: { label: "note on how to test", text: "how_to_test" },
    demand: {
      sentence: "It needs a note on how to test it.",
      help: "Write in a line or two how a tester can see that it works.",
      label: "How to test it",
      what: "a note on how to test",
    },
    followUp: "nothing",
  },
  criteria: {
    label: "Accepted when",
    words: "acceptance criteria",
    schema: criteriaSchema,
    initial: [],
    editor: { kind: "criteria" },
  },
  assigneeId: {
    label: "Assignee",
    words: "assignee",
    schema: id.nullable(),
    initial: null,
    editor: { kind: "choice", options: "people", none: "Nobody yet", ask: "Choose a person" },
    panel: "narrow",
    fact: { label: "assignee", text: "assignee" },
    demand: {
      sentence: "It needs somebody who works on it.",
      help: "Choose an assignee.",
      label: "Assignee",
    },
  },
  reviewerId: {
    label: "Reviewer",
    words: "reviewer",
    schema: id.nullable(),
    initial: null,
    editor: { kind: "choice", options: "people", none: "Nobody yet", ask: "Choose a person" },
    panel: "narrow",
    fact: { label: "reviewer", text: "reviewer" },
    demand: {
      sentence: "Review needs a reviewer.",
      help: "Choose somebody other than the assignee.",
      label: "Reviewer",
    },
    followUp: "nothing",
  },
  classOfService: {
    label: "Class",
    words: "class of service",
    schema: z.enum(CLASSES_OF_SERVICE),
    initial: "standard",
    editor: { kind: "choice", options: CLASSES_OF_SERVICE },
    panel: "narrow",
    fact: { label: "class of service", text: "class_of_service" },
    followUp: "any value",
  },
  teamId: {
    label: "Team",
    words: "team",
    schema: id.nullable(),
    initial: null,
    editor: { kind: "choice", options: "teams", none: "No team", ask: "Choose a team" },
    panel: "narrow",
    fact: { label: "team", text: "team" },
    demand: {
      sentence: "It needs a team.",
      help: "Choose the team that takes it.",
      label: "Team",
    },
    followUp: "any value",
  },
  priority: {
    label: "Priority",
    words: "priority",
    schema: z.enum(PRIORITIES),
    initial: "normal",
    editor: { kind: "choice", options: PRIORITIES },
    panel: "narrow",
    fact: { label: "priority", text: "priority" },
    followUp: "any value",
  },
  severity: {
    label: "Severity",
    words: "severity",
    schema: z.enum(SEVERITIES).nullable(),
    initial: null,
    editor: {
      kind: "choice",
      options: SEVERITIES,
      none: "Not set",
      ask: "Choose how bad it is",
    },
    panel: "narrow",
    fact: { label: "severity", text: "severity" },
    demand: {
      sentence: "It needs a severity.",
      help: "Say how bad it is for those who meet it.",
      label: "Severity",
    },
    followUp: "any value",
  },
  typeId: {
    label: "Type",
    words: "type",
    schema: id,
    editor: { kind: "choice", options: "types" },
    panel: "narrow",
    fact: { label: "type", text: "type" },
  },
  origin: {
    label: "Origin",
    words: "origin",
    schema: z.enum(ORIGINS),
    initial: "planned",
    editor: { kind: "choice", options: ORIGINS },
    panel: "narrow",
    fact: { label: "origin", text: "origin" },
    followUp: "any value",
  },
  sprintId: {
    label: "Sprint",
    words: "sprint",
    schema: id.nullable(),
    initial: null,
    editor: { kind: "choice", options: "sprints", none: "No sprint", ask: "Choose a sprint" },
    panel: "narrow",
    fact: { label: "sprint", text: "sprint" },
    demand: {
      sentence: "It needs a sprint.",
      help: "Choose the sprint it is done in.",
      label: "Sprint",
    },
    followUp: "nothing",
  },
  releaseId: {
    label: "Release",
    words: "release",
    schema: id.nullable(),
    initial: null,
    editor: { kind: "choice", options: "releases", none: "No release", ask: "Choose a release" },
    panel: "narrow",
    fact: { label: "release", text: "release" },
    demand: {
      sentence: "It needs a release.",
      help: "Choose the release it goes out with.",
      label: "Release",
    },
    followUp: "nothing",
  },
  /** Seen only by leads, by whoever made it and by those who work on it. */
  restricted: {
    label: "Seen by",
    words: "who sees it",
    schema: z.boolean(),
    initial: false,
    editor: { kind: "flag", yes: "leads and who works on it", no: "the whole project" },
    panel: "narrow",
  },
  estimate: {
    label: "Estimate",
    words: "estimate",
    schema: hours.nullable(),
    initial: null,
    editor: { kind: "number" },
    panel: "narrow",
    fact: { label: "estimate", text: "estimate" },
    demand: {
      sentence: "It needs an estimate.",
      help: "Give the team's estimate.",
      label: "Estimate",
    },
    followUp: "any value",
  },
  /** Work that is still to be done, in hours. */
  remainingHours: {
    label: "Hours left",
    words: "remaining work",
    schema: hours.nullable(),
    initial: null,
    editor: { kind: "number", unit: "hours" },
    fact: { label: "remaining work", text: "remaining_hours" },
  },
  /** What somebody thought that it takes, before it was begun, in hours. */
  firstEstimate: {
    label: "First estimate",
    words: "first estimate",
    schema: hours.nullable(),
    initial: null,
    editor: { kind: "number", unit: "hours" },
    fact: { label: "first estimate", text: "first_estimate" },
  },
  /** From which day it is planned to be worked on; ISO 8601 calendar date. */
  plannedFrom: {
    label: "Planned from",
    words: "planned first day",
    schema: z.iso.date().nullable(),
    initial: null,
    editor: { kind: "date" },
    panel: "narrow",
    fact: { label: "planned first day", text: "planned_from" },
  },
  /** The last day of what is planned: no promise, which is the due date. */
  plannedTo: {
    label: "Planned to",
    words: "planned last day",
    schema: z.iso.date().nullable(),
    initial: null,
    editor: { kind: "date" },
    panel: "narrow",
    fact: { label: "planned last day", text: "planned_to" },
  },
  /** ISO 8601 calendar date */
  dueOn: {
    label: "Due",
    words: "due date",
    schema: z.iso.date().nullable(),
    initial: null,
    editor: { kind: "date" },
    panel: "narrow",
    fact: { label: "due date", text: "due" },
    demand: {
      sentence: "It needs a due date.",
      help: "Say by when it is wanted.",
      label: "Due date",
    },
    followUp: "nothing",
  },
  /** Parts of the product that it is about. */
  parts: {
    label: "Parts",
    words: "parts of the product",
    schema: termsSchema,
    initial: [],
    editor: { kind: "terms", of: "part" },
    panel: "wide",
    fact: { label: "parts", text: "parts" },
  },
  labels: {
    label: "Labels",
    words: "labels",
    schema: termsSchema,
    initial: [],
    editor: { kind: "terms", of: "label" },
    panel: "wide",
    fact: { label: "labels", text: "labels" },
  },
  place: {
    label: "Where",
    words: "place",
    schema: z.string().max(200).nullable(),
    initial: null,
    editor: { kind: "text" },
    panel: "wide",
    fact: { label: "place", text: "place" },
    demand: {
      sentence: "It needs to say where it happens.",
      help: "Name the place, the device or the page.",
      label: "Where",
    },
    followUp: "any value",
  },
} as const satisfies Record<string, ItemField>;

type Table = typeof ITEM_FIELDS;
export type EditableField = keyof Table;
/** The fields of an item that a person edits directly. */
export type EditableFields = { [F in EditableField]: z.output<Table[F]["schema"]> };

export const EDITABLE_FIELDS = Object.keys(ITEM_FIELDS) as EditableField[];
/** A field of the table, without its name. */
export const itemField = (field: EditableField): ItemField => ITEM_FIELDS[field];

/** The fields of which something holds. */
type FieldsWith<Part> = {
  [F in EditableField]: Table[F] extends Part ? F : never;
}[EditableField];
const fieldsWith = <Part>(holds: (field: ItemField) => boolean) =>
  EDITABLE_FIELDS.filter((f) => holds(ITEM_FIELDS[f])) as FieldsWith<Part>[];

/** Fields that a condition can ask for. */
export type AskedField = FieldsWith<{ fact: object }>;
export const ASKED_FIELDS = fieldsWith<{ fact: object }>((f) => f.fact !== undefined);
/** Fields that a move can demand to be filled, and that can be asked for in place. */
export type DemandedItemField = FieldsWith<{ demand: object }>;
export const DEMANDED_FIELDS = fieldsWith<{ demand: object }>((f) => f.demand !== undefined);
/** Fields that a move can set afterwards. */
export type SetField = FieldsWith<{ followUp: string }>;
export const SET_FIELDS = fieldsWith<{ followUp: string }>((f) => f.followUp !== undefined);
/** Fields that hold words of somebody's own. */
export type TextField = FieldsWith<{ editor: { kind: "text" } }>;
export const TEXT_FIELDS = fieldsWith<{ editor: { kind: "text" } }>(
  (f) => f.editor.kind === "text",
);

/** What a field is called in a sentence. */
export const FIELD_WORDS: Record<EditableField | "outcome" | "parentId", string> = {
  ...(Object.fromEntries(EDITABLE_FIELDS.map((f) => [f, ITEM_FIELDS[f].words])) as Record<
    EditableField,
    string
  >),
  outcome: "outcome",
  parentId: "parent",
};

/** Why an item cannot go on. */
export interface OpenBlocker {
  id: string;
  cause: string;
  /** Whom or what it waits for, in words. */
  waitingFor: string | null;
  /**
   * The item whose delivery lifts it, where it comes from a dependency; null for who may not see
   * that one.
   */
  dependencyId?: string | null;
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
  /** The sum of the time that people recorded on it. */
  spentMinutes: number;
  /** Since when the item has been blocked without a break; null while it is not. */
  blockedSince: Instant | null;
  openBlockers: OpenBlocker[];
  /** Since when the work in its state is done and it waits to be pulled on; null while it is not. */
  readySince: Instant | null;
  /** Which of its criteria somebody found met. */
  met: Met[];
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
