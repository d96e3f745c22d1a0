import { sql } from "drizzle-orm";
import {
  bigint,
  boolean,
  check,
  date,
  doublePrecision,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import type { Interval } from "@/core/calendar/instant";
import type { Cause, ItemEventKind } from "@/core/item/event";
import type {
  Approval,
  ClassOfService,
  LinkKind,
  OpenBlocker,
  Origin,
  Priority,
  Severity,
  Tick,
} from "@/core/item/fields";
import type { Criterion, Met } from "@/core/item/criterion";
import type { Outside } from "@/core/item/outside";
import type { Audience, CommentSign, Named, TalkClosing } from "@/core/talk/comment";
import type { FileSpot } from "@/core/talk/spot";
import type { OwnValues } from "@/core/item/own-field";
import type { FlowPassage, StateTimes } from "@/core/item/passage";
import type { Timebox } from "@/core/plan/membership";
import type { Outcome, StateKind } from "@/core/workflow/state";
import { instant, rank } from "./columns";
import { person, team } from "./people";
import { release, sprint } from "./plan";
import { project } from "./project";
import { itemType, state } from "./workflow";

/** What is known of an item now. Written only together with the events that lead to it. */
export const item = pgTable(
  "item",
  {
    id: uuid("id").primaryKey(),
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    number: integer("number").notNull(),
    typeId: text("type_id").notNull(),
    title: text("title").notNull(),
    description: text("description").notNull(),
    severity: text("severity").$type<Severity>(),
    priority: text("priority").$type<Priority>().notNull(),
    classOfService: text("class_of_service").$type<ClassOfService>().notNull(),
    origin: text("origin").$type<Origin>().notNull(),
    estimate: doublePrecision("estimate"),
    remainingHours: doublePrecision("remaining_hours"),
    firstEstimate: doublePrecision("first_estimate"),
    spentMinutes: integer("spent_minutes").notNull().default(0),
    plannedFrom: date("planned_from", { mode: "string" }),
    plannedTo: date("planned_to", { mode: "string" }),
    teamId: text("team_id").references(() => team.id),
    assigneeId: text("assignee_id").references(() => person.id),
    reviewerId: text("reviewer_id").references(() => person.id),
    place: text("place"),
    howToTest: text("how_to_test"),
    dueOn: date("due_on", { mode: "string" }),
    sprintId: text("sprint_id").references(() => sprint.id),
    releaseId: text("release_id").references(() => release.id),
    parentId: uuid("parent_id"),
    /** Seen only by leads and by those who have to do with it. */
    restricted: boolean("restricted").notNull().default(false),
    labels: jsonb("labels").$type<string[]>().notNull().default([]),
    /** Of the product: what it is about. */
    parts: jsonb("parts").$type<string[]>().notNull().default([]),
    own: jsonb("own").$type<OwnValues>().notNull().default({}),
    outside: jsonb("outside")
      .$type<Outside>()
      .notNull()
      .default({ changes: [], deployedTo: [], testResult: null }),
    stateId: text("state_id")
      .notNull()
      .references(() => state.id),
    stateKind: text("state_kind").$type<StateKind>().notNull(),
    enteredStateAt: instant("entered_state_at").notNull(),
    rank: rank("rank").notNull(),
    outcome: text("outcome").$type<Outcome>(),
    firstStartedAt: instant("first_started_at"),
    deliveredAt: instant("delivered_at"),
    finishedAt: instant("finished_at"),
    clock: jsonb("clock").$type<Interval[]>().notNull(),
    returns: integer("returns").notNull(),
    blockedSince: instant("blocked_since"),
    openBlockers: jsonb("open_blockers").$type<OpenBlocker[]>().notNull(),
    readySince: instant("ready_since"),
    /** What has to be true so that it is what was wanted, and what of it somebody found met. */
    criteria: jsonb("criteria").$type<Criterion[]>().notNull().default([]),
    met: jsonb("met").$type<Met[]>().notNull().default([]),
    ticks: jsonb("ticks").$type<Tick[]>().notNull().default([]),
    approvals: jsonb("approvals").$type<Approval[]>().notNull().default([]),
    withdrawnAt: instant("withdrawn_at"),
    createdAt: instant("created_at").notNull(),
    createdBy: text("created_by").references(() => person.id),
    updatedAt: instant("updated_at").notNull(),
    version: integer("version").notNull(),
  },
  (t) => [
    uniqueIndex("item_number").on(t.projectId, t.number),
    index("item_state")
      .on(t.stateId, t.rank)
      .where(sql`${t.withdrawnAt} is null`),
    // What has finished, the latest first.
    index("item_finished_lately")
      .on(t.stateId, t.enteredStateAt.desc(), t.id)
      .where(sql`${t.withdrawnAt} is null and ${t.stateKind} = 'finished'`),
    index("item_rank").on(t.rank),
    index("item_parent").on(t.parentId),
    index("item_sprint").on(t.sprintId),
    index("item_release").on(t.releaseId),
    // What people have in their hands.
    index("item_in_hand")
      .on(t.assigneeId)
      .where(sql`${t.withdrawnAt} is null and ${t.stateKind} in ('waiting', 'working')`),
    index("item_in_review")
      .on(t.reviewerId)
      .where(sql`${t.withdrawnAt} is null and ${t.stateKind} in ('waiting', 'working')`),
    // What is due of what people have, and what is blocked.
    index("item_due")
      .on(t.assigneeId, t.dueOn)
      .where(
        sql`${t.dueOn} is not null and ${t.withdrawnAt} is null and ${t.stateKind} <> 'finished'`,
      ),
    index("item_blocked")
      .on(t.projectId)
      .where(sql`${t.openBlockers} <> '[]'::jsonb and ${t.withdrawnAt} is null`),
    index("item_delivered").on(t.projectId, t.deliveredAt),
    // By project first, so that one project's items are found among all of them without reading the
    // others'.
    index("item_words").using(
      "gin",
      t.projectId,
      sql`to_tsvector('english', ${t.title} || ' ' || ${t.description})`,
    ),
    index("item_title_trigrams").using("gin", t.projectId, t.title.op("gin_trgm_ops")),
    index("item_restricted")
      .on(t.projectId)
      .where(sql`${t.restricted}`),
    foreignKey({ columns: [t.parentId], foreignColumns: [t.id], name: "item_parent_fk" }),
    foreignKey({
      columns: [t.projectId, t.typeId],
      foreignColumns: [itemType.projectId, itemType.id],
      name: "item_type_fk",
    }),
    check("item_title", sql`length(${t.title}) between 1 and 300`),
    check("item_severity", sql`${t.severity} in ('minor', 'moderate', 'major', 'critical')`),
    check("item_priority", sql`${t.priority} in ('low', 'normal', 'high', 'urgent')`),
    check(
      "item_class",
      sql`${t.classOfService} in ('expedite', 'fixed date', 'standard', 'intangible')`,
    ),
    check("item_origin", sql`${t.origin} in ('planned', 'unplanned')`),
    check(
      "item_state_kind",
      sql`${t.stateKind} in ('unstarted', 'waiting', 'working', 'finished')`,
    ),
    check(
      "item_outcome",
      sql`${t.outcome} in ('delivered', 'duplicate', 'cannot reproduce', 'declined', 'obsolete')`,
    ),
    check("item_estimate", sql`${t.estimate} >= 0`),
  ],
);

/**
 * Every key by which an item is known: its prefix is that of a project, at the time when it was
 * given. The newest of an item is the one that is shown; none is ever taken away or given again.
 */
export const itemKey = pgTable(
  "item_key",
  {
    prefix: text("prefix").notNull(),
    number: integer("number").notNull(),
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    since: instant("since").notNull(),
  },
  (t) => [primaryKey({ columns: [t.prefix, t.number] }), index("item_key_item").on(t.itemId)],
);

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

/** What a person keeps at hand for themselves; nobody else sees it. */
export const pin = pgTable(
  "pin",
  {
    personId: text("person_id")
      .notNull()
      .references(() => person.id),
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    place: integer("place").notNull(),
    at: instant("at").notNull(),
  },
  (t) => [primaryKey({ columns: [t.personId, t.itemId] })],
);

export const comment = pgTable(
  "comment",
  {
    id: uuid("id").notNull(),
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    authorId: text("author_id").references(() => person.id),
    body: text("body").notNull(),
    at: instant("at").notNull(),
    /** The comment that it answers. */
    answersId: uuid("answers_id"),
    /** The place on a file that it is about. */
    spot: jsonb("spot").$type<FileSpot>(),
    named: jsonb("named").$type<Named>().notNull().default({ people: [], teams: [] }),
    /** People who are asked to answer it, by their ids. */
    asks: jsonb("asks").$type<string[]>().notNull().default([]),
    audience: text("audience").$type<Audience>().notNull().default("team"),
    editedAt: instant("edited_at"),
    /** When it was taken back, by whom and why. */
    goneAt: instant("gone_at"),
    goneBy: text("gone_by").references(() => person.id),
    whyGone: text("why_gone"),
  },
  (t) => [
    primaryKey({ columns: [t.itemId, t.id] }),
    // Questions, by whom they ask and who asks them: few comments are any.
    index("comment_asks")
      .using("gin", t.asks)
      .where(sql`${t.asks} <> '[]'::jsonb`),
    index("comment_asked_by")
      .on(t.authorId)
      .where(sql`${t.asks} <> '[]'::jsonb`),
    check("comment_audience", sql`${t.audience} in ('team', 'reporters')`),
    index("comment_words").using("gin", sql`to_tsvector('english', ${t.body})`),
  ],
);

/** Time that people spent on items, as it stands now; the history keeps what it was before. */
export const timeEntry = pgTable(
  "time_entry",
  {
    id: uuid("id").notNull(),
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    personId: text("person_id")
      .notNull()
      .references(() => person.id),
    on: date("on_day", { mode: "string" }).notNull(),
    minutes: integer("minutes").notNull(),
    note: text("note").notNull().default(""),
    at: instant("at").notNull(),
    /** When it was removed; it can be put back. */
    goneAt: instant("gone_at"),
  },
  (t) => [
    primaryKey({ columns: [t.itemId, t.id] }),
    index("time_entry_person").on(t.personId, t.on),
    check("time_entry_minutes", sql`${t.minutes} > 0`),
  ],
);

/** A sign that somebody put to a comment instead of words. */
export const commentSign = pgTable(
  "comment_sign",
  {
    itemId: uuid("item_id").notNull(),
    commentId: uuid("comment_id").notNull(),
    personId: text("person_id")
      .notNull()
      .references(() => person.id),
    sign: text("sign").$type<CommentSign>().notNull(),
    at: instant("at").notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.itemId, t.commentId, t.personId, t.sign] }),
    foreignKey({ columns: [t.itemId, t.commentId], foreignColumns: [comment.itemId, comment.id] }),
  ],
);

/** Items whose talk was closed, for observers or for everybody. */
export const talkClosed = pgTable(
  "talk_closed",
  {
    itemId: uuid("item_id")
      .primaryKey()
      .references(() => item.id),
    closing: text("closing").$type<TalkClosing>().notNull(),
  },
  (t) => [check("talk_closed_closing", sql`${t.closing} in ('members', 'nobody')`)],
);

/** When a person last looked at an item's talk and history. */
export const itemLook = pgTable(
  "item_look",
  {
    personId: text("person_id")
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    at: instant("at").notNull(),
  },
  (t) => [primaryKey({ columns: [t.personId, t.itemId] })],
);

/** Up to which event somebody said that they saw what was changed of what was agreed. */
export const agreedSeen = pgTable(
  "agreed_seen",
  {
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    personId: text("person_id")
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    seq: integer("seq").notNull(),
  },
  (t) => [primaryKey({ columns: [t.itemId, t.personId] })],
);

export const itemLink = pgTable(
  "item_link",
  {
    id: uuid("id").primaryKey(),
    fromItemId: uuid("from_item_id")
      .notNull()
      .references(() => item.id),
    toItemId: uuid("to_item_id")
      .notNull()
      .references(() => item.id),
    kind: text("kind").$type<LinkKind>().notNull(),
  },
  (t) => [
    uniqueIndex("item_link_once").on(t.fromItemId, t.toItemId, t.kind),
    index("item_link_to").on(t.toItemId),
    check("item_link_other", sql`${t.fromItemId} <> ${t.toItemId}`),
    check(
      "item_link_kind",
      sql`${t.kind} in ('duplicates', 'relates to', 'came from', 'waits for', 'found in', 'tested by')`,
    ),
  ],
);

/** Commands that were carried out, by their idempotency key: sent again, they change nothing. */
export const commandRecord = pgTable("command_record", {
  id: uuid("id").primaryKey(),
  actorId: text("actor_id").references(() => person.id),
  at: instant("at").notNull(),
  itemId: uuid("item_id"),
  version: integer("version"),
  /**
   * What it asked for and of what: the same key for something else is refused. Null for those of
   * before this was kept.
   */
  what: text("what"),
});
