import { sql } from "drizzle-orm";
import {
  boolean,
  check,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
} from "drizzle-orm/pg-core";
import type { TypeGlyphName } from "@/core/item/item-type";
import type { Workflow } from "@/core/workflow/workflow";
import type { StateKind } from "@/core/workflow/state";
import { instant } from "./columns";
import { person } from "./people";
import { project } from "./project";

export const workflow = pgTable("workflow", {
  id: text("id").primaryKey(),
  projectId: text("project_id")
    .notNull()
    .references(() => project.id),
  name: text("name").notNull(),
  version: integer("version").notNull(),
  /** When it was taken out; what its versions say of the past stays. */
  removedAt: instant("removed_at"),
});

/**
 * What items, stays and columns hang on. A state that was taken out of its workflow keeps its row,
 * so the past stays readable; what runs now is the definition of the workflow's current version.
 */
export const state = pgTable(
  "state",
  {
    id: text("id").primaryKey(),
    workflowId: text("workflow_id")
      .notNull()
      .references(() => workflow.id),
    name: text("name").notNull(),
    kind: text("kind").$type<StateKind>().notNull(),
    stage: text("stage"),
    position: integer("position").notNull(),
    /** Whether the reviewer works in it, and not the assignee. */
    byReviewer: boolean("by_reviewer").notNull().default(false),
    /** The version that took it out; null while it is part of its workflow. */
    removedIn: integer("removed_in"),
  },
  (t) => [
    index("state_workflow").on(t.workflowId),
    check("state_kind", sql`${t.kind} in ('unstarted', 'waiting', 'working', 'finished')`),
    check("state_name", sql`length(${t.name}) between 1 and 60`),
  ],
);

/**
 * Every published version of a workflow, whole and never changed again, with who made it, when and
 * what changed.
 */
export const workflowVersion = pgTable(
  "workflow_version",
  {
    workflowId: text("workflow_id")
      .notNull()
      .references(() => workflow.id),
    version: integer("version").notNull(),
    definition: jsonb("definition").$type<Workflow>().notNull(),
    at: instant("at").notNull(),
    byId: text("by_id").references(() => person.id),
    /** Why, in the words of whoever published it. */
    note: text("note").notNull().default(""),
    /** What changed, in words. */
    summary: text("summary").notNull(),
  },
  (t) => [primaryKey({ columns: [t.workflowId, t.version] })],
);

/**
 * The changes that leads prepare for a workflow before anybody is bound by them. At most one for
 * each workflow.
 */
export const workflowDraft = pgTable("workflow_draft", {
  workflowId: text("workflow_id")
    .primaryKey()
    .references(() => workflow.id),
  definition: jsonb("definition").$type<Workflow>().notNull(),
  /** The published version it was begun from. */
  baseVersion: integer("base_version").notNull(),
  /** Counts what was stored, so that two leads who edit at once notice each other. */
  revision: integer("revision").notNull(),
  byId: text("by_id")
    .notNull()
    .references(() => person.id),
  at: instant("at").notNull(),
});

/** Where somebody is at a draft right now. */
export const draftPlace = pgTable("draft_place", {
  personId: text("person_id")
    .primaryKey()
    .references(() => person.id),
  workflowId: text("workflow_id")
    .notNull()
    .references(() => workflow.id),
  /** The state or the move that they have chosen. */
  chosenId: text("chosen_id"),
  at: instant("at").notNull(),
});

export const itemType = pgTable(
  "item_type",
  {
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    id: text("id").notNull(),
    name: text("name").notNull(),
    /** task 0, story, bug and request 1, feature 2, epic 3 */
    level: integer("level").notNull(),
    workflowId: text("workflow_id")
      .notNull()
      .references(() => workflow.id),
    glyph: text("glyph").$type<TypeGlyphName>().notNull().default("square"),
    /** What the description of a new item begins with, Markdown. */
    template: text("template").notNull().default(""),
    position: integer("position").notNull().default(0),
    /** A type that was taken out; items that have it keep it. */
    removedAt: instant("removed_at"),
  },
  (t) => [
    primaryKey({ columns: [t.projectId, t.id] }),
    check("item_type_level", sql`${t.level} between 0 and 3`),
  ],
);
