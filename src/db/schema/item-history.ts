import { sql } from "drizzle-orm";
import {
  bigint,
  check,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import type { Cause, ItemEventKind } from "@/core/item/event";
import type { FlowPassage, StateTimes } from "@/core/item/passage";
import type { Timebox } from "@/core/plan/membership";
import type { Outcome, StateKind } from "@/core/workflow/state";
import { instant } from "./columns";
import { person } from "./people";
import { project } from "./project";
import { state } from "./workflow";
import { item } from "./item";

/** The append-only history. A trigger in the database refuses changing or deleting a row. */
export const itemEvent = pgTable(
  "item_event",
  {
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    seq: integer("seq").notNull(),
    at: instant("at").notNull(),
    actorId: text("actor_id").references(() => person.id),
    cause: text("cause").$type<Cause>().notNull(),
    commandId: uuid("command_id").notNull(),
    kind: text("kind").$type<ItemEventKind>().notNull(),
    field: text("field"),
    old: jsonb("old"),
    new: jsonb("new"),
    /** Of the text that was said with it. */
    noteId: uuid("note_id"),
  },
  (t) => [
    primaryKey({ columns: [t.itemId, t.seq] }),
    // What went beyond limits is looked for by time; there is little of it.
    index("item_event_overrode")
      .on(t.at)
      .where(sql`${t.kind} = 'overrode'`),
    // What has gone to other projects is looked for by the one that it was in.
    index("item_event_changed_project")
      .on(sql`(${t.old} ->> 'projectId')`)
      .where(sql`${t.kind} = 'changed project'`),
    check("item_event_seq", sql`${t.seq} > 0`),
  ],
);

/**
 * The free texts of the history. An event holds their ids where they stand, so that a text can be
 * emptied and the history stays as it is. A trigger in the database refuses any other change.
 */
export const itemText = pgTable(
  "item_text",
  {
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    /** The event that it was said in. */
    seq: integer("seq").notNull(),
    id: uuid("id").notNull(),
    body: text("body").notNull(),
    emptiedAt: instant("emptied_at"),
    emptiedBy: text("emptied_by").references(() => person.id),
    whyEmptied: text("why_emptied"),
  },
  (t) => [
    primaryKey({ columns: [t.itemId, t.seq, t.id] }),
    check("item_text_emptied", sql`(${t.emptiedAt} is null) = (${t.whyEmptied} is null)`),
  ],
);

/** Each interval that an item spent in a state. */
export const stay = pgTable(
  "stay",
  {
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    enteredSeq: integer("entered_seq").notNull(),
    /** The project that the item was in then. */
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    stateId: text("state_id")
      .notNull()
      .references(() => state.id),
    kind: text("kind").$type<StateKind>().notNull(),
    /** Of a finished state: the outcome that was named on entering it. */
    outcome: text("outcome").$type<Outcome>(),
    enteredAt: instant("entered_at").notNull(),
    leftAt: instant("left_at"),
    /** How long of it, as far as that is over, the item was blocked. */
    blockedMs: bigint("blocked_ms", { mode: "number" }).notNull().default(0),
    /** And how long it was ready for its next step. */
    readyMs: bigint("ready_ms", { mode: "number" }).notNull().default(0),
  },
  (t) => [
    primaryKey({ columns: [t.itemId, t.enteredSeq] }),
    // One project's stays are found among all of them without reading the others'.
    index("stay_project").on(t.projectId, t.enteredAt),
    uniqueIndex("stay_open")
      .on(t.itemId)
      .where(sql`${t.leftAt} is null`),
    check("stay_order", sql`${t.leftAt} >= ${t.enteredAt}`),
  ],
);

/**
 * Each start and finish, as flow measures read them. Made with the events, and the same when made
 * again from them.
 */
export const flowPassage = pgTable(
  "flow_passage",
  {
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    /** Number of the event that made it. */
    seq: integer("seq").notNull(),
    /** The project that the item was in then. */
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    at: instant("at").notNull(),
    kind: text("kind").$type<FlowPassage["kind"]>().notNull(),
    outcome: text("outcome").$type<Outcome>(),
    /** Of a finish: the whole clock until then, and its part since the finish before. */
    elapsedMs: bigint("elapsed_ms", { mode: "number" }),
    sinceLastMs: bigint("since_last_ms", { mode: "number" }),
    /** Of a first delivery: how long the item had been in each state in progress. */
    times: jsonb("times").$type<StateTimes>(),
  },
  (t) => [
    primaryKey({ columns: [t.itemId, t.seq] }),
    index("flow_passage_project").on(t.projectId, t.at),
    check("flow_passage_kind", sql`${t.kind} in ('start', 'delivered', 'stopped', 'again')`),
    check("flow_passage_finish", sql`(${t.kind} = 'start') = (${t.elapsedMs} is null)`),
    check("flow_passage_times", sql`(${t.kind} = 'delivered') = (${t.times} is not null)`),
  ],
);

/**
 * How long each item was in which sprint and release, and how large it was then. Made with the
 * events, and the same when made again from them.
 */
export const timeboxMembership = pgTable(
  "box_membership",
  {
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    box: text("box").$type<Timebox>().notNull(),
    /** Number of the event that began it. */
    enteredSeq: integer("entered_seq").notNull(),
    /** A sprint's or a release's id; one that was put away keeps its past. */
    boxId: text("box_id").notNull(),
    fromAt: instant("from_at").notNull(),
    toAt: instant("to_at"),
    sizeAtStart: doublePrecision("size_at_start"),
    sizeAtEnd: doublePrecision("size_at_end"),
    why: text("why").$type<Cause>().notNull(),
    whyEnded: text("why_ended").$type<Cause>(),
  },
  (t) => [
    primaryKey({ columns: [t.itemId, t.box, t.enteredSeq] }),
    index("box_membership_box").on(t.box, t.boxId),
    uniqueIndex("box_membership_open")
      .on(t.itemId, t.box)
      .where(sql`${t.toAt} is null`),
    check("box_membership_kind", sql`${t.box} in ('sprint', 'release')`),
    check("box_membership_order", sql`${t.toAt} >= ${t.fromAt}`),
    check("box_membership_end", sql`(${t.toAt} is null) = (${t.whyEnded} is null)`),
  ],
);

/** Why something came into a sprint that ran, or was taken out of it; by the event that did it. */
export const scopeReason = pgTable(
  "scope_reason",
  {
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    seq: integer("seq").notNull(),
    words: text("words").notNull(),
    byId: text("by_id")
      .notNull()
      .references(() => person.id),
    at: instant("at").notNull(),
  },
  (t) => [primaryKey({ columns: [t.itemId, t.seq] })],
);

/** Each blocked interval. */
export const block = pgTable(
  "block",
  {
    id: uuid("id").notNull(),
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    cause: text("cause").notNull(),
    waitingFor: text("waiting_for"),
    /** The item that it waits for, where it comes from a dependency. */
    dependencyId: uuid("dependency_id"),
    byId: text("by_id").references(() => person.id),
    fromAt: instant("from_at").notNull(),
    liftedAt: instant("lifted_at"),
  },
  (t) => [
    primaryKey({ columns: [t.itemId, t.id] }),
    index("block_dependency").on(t.dependencyId),
    check("block_order", sql`${t.liftedAt} >= ${t.fromAt}`),
  ],
);
