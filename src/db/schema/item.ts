import { sql } from "drizzle-orm";
import {
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
import type { OwnValues } from "@/core/item/own-field";
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
    // What code hosts know of: an event names changes, and few items have any.
    index("item_with_changes")
      .on(t.projectId)
      .where(sql`${t.outside} -> 'changes' <> '[]'::jsonb and ${t.withdrawnAt} is null`),
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
