import { sql } from "drizzle-orm";
import {
  boolean,
  check,
  date,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  uuid,
} from "drizzle-orm/pg-core";
import type { Doer, RuleHappening } from "@/core/alerts/own-rule";
import type { Condition } from "@/core/condition/condition";
import type { Digest, MailWay } from "@/core/alerts/ways";
import type { SmallThing } from "@/core/today/housekeeping";
import type { FollowKind, FollowReason } from "@/core/alerts/follow";
import type { StandardRuleId } from "@/core/alerts/standard-rules";
import { instant } from "./columns";
import { item } from "./item";
import { person } from "./people";
import { project } from "./project";

/**
 * What somebody is told of one item: many things that happened to it shortly after each other are
 * one. It holds where they stand in the item's history; the words are made when it is read or sent.
 */
export const alert = pgTable(
  "alert",
  {
    id: uuid("id").primaryKey(),
    personId: text("person_id")
      .notNull()
      .references(() => person.id),
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    firstAt: instant("first_at").notNull(),
    lastAt: instant("last_at").notNull(),
    /** Whether its mail may go in quiet hours too. */
    urgent: boolean("urgent").notNull().default(false),
    readAt: instant("read_at"),
    /** Put off: it stands among what is new again from then on. */
    laterUntil: instant("later_until"),
    doneAt: instant("done_at"),
    /** When a mail of its own is due; null where none is wanted. */
    mailDueAt: instant("mail_due_at"),
    mailedAt: instant("mailed_at"),
    /** The digest that it belongs to. */
    digest: text("digest").$type<Digest>(),
    digestedAt: instant("digested_at"),
    /** Why its mail was not sent, where it was not. */
    unsent: text("unsent"),
    /** How often sending its mail failed. */
    tries: integer("tries").notNull().default(0),
    inFeed: boolean("in_feed").notNull().default(false),
  },
  (t) => [
    index("alert_person").on(t.personId, t.lastAt.desc()),
    index("alert_item").on(t.itemId, t.personId),
    index("alert_new")
      .on(t.personId)
      .where(sql`${t.readAt} is null and ${t.doneAt} is null`),
    index("alert_mail_due")
      .on(t.mailDueAt)
      .where(sql`${t.mailDueAt} is not null and ${t.mailedAt} is null and ${t.unsent} is null`),
    index("alert_digest_due")
      .on(t.personId)
      .where(sql`${t.digest} is not null and ${t.digestedAt} is null`),
    check("alert_order", sql`${t.lastAt} >= ${t.firstAt}`),
    check("alert_digest", sql`${t.digest} in ('morning', 'weekly')`),
  ],
);

/** One thing that happened, as it concerns the person of an alert, with the rules that say so. */
export const alertPart = pgTable(
  "alert_part",
  {
    alertId: uuid("alert_id")
      .notNull()
      .references(() => alert.id, { onDelete: "cascade" }),
    id: uuid("id").notNull(),
    at: instant("at").notNull(),
    /** Steps of the item's history that it tells of. */
    seqs: integer("seqs")
      .array()
      .notNull()
      .default(sql`'{}'`),
    rules: text("rules").array().notNull(),
    /** What the process or a person says, where that stands in no history. */
    said: text("said"),
    /** Other items that it is about. */
    otherIds: uuid("other_ids")
      .array()
      .notNull()
      .default(sql`'{}'`),
  },
  (t) => [primaryKey({ columns: [t.alertId, t.id] })],
);

/** How a person wants to hear by one of the rules that everybody starts with. */
export const alertChoice = pgTable(
  "alert_choice",
  {
    personId: text("person_id")
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    rule: text("rule").$type<StandardRuleId>().notNull(),
    off: boolean("off").notNull(),
    mail: text("mail").$type<MailWay>().notNull(),
    feed: boolean("feed").notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.personId, t.rule] }),
    check("alert_choice_mail", sql`${t.mail} in ('at once', 'morning', 'weekly', 'none')`),
  ],
);

/** A rule of a person's own: when what happens to which items, how they hear of it. */
export const alertRule = pgTable(
  "alert_rule",
  {
    id: uuid("id").primaryKey(),
    personId: text("person_id")
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    name: text("name").notNull(),
    /** Null for all projects that the person may see. */
    projectId: text("project_id").references(() => project.id),
    /** None for every type. */
    typeIds: text("type_ids").array().notNull(),
    /** None for anything. */
    happens: text("happens").array().$type<RuleHappening[]>().notNull(),
    fields: text("fields").array().notNull(),
    by: jsonb("by").$type<Doer>().notNull(),
    condition: jsonb("condition").$type<Condition>(),
    off: boolean("off").notNull(),
    mail: text("mail").$type<MailWay>().notNull(),
    feed: boolean("feed").notNull(),
    madeAt: instant("made_at").notNull(),
    /** Taken out; what it told keeps saying why. */
    removedAt: instant("removed_at"),
  },
  (t) => [
    index("alert_rule_person").on(t.personId),
    // Rules that an event can touch are found by its project, or are those for all projects.
    index("alert_rule_project")
      .on(t.projectId)
      .where(sql`not ${t.off} and ${t.removedAt} is null`),
    check("alert_rule_mail", sql`${t.mail} in ('at once', 'morning', 'weekly', 'none')`),
    check(
      "alert_rule_whole_project",
      sql`${t.projectId} is not null or (${t.condition} is null and ${t.typeIds} = '{}')`,
    ),
  ],
);

/** What a person follows, or does not want to follow although they have to do with it. */
export const follow = pgTable(
  "follow",
  {
    personId: text("person_id")
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    kind: text("kind").$type<FollowKind>().notNull(),
    /** The id of the item or the view; of a label or a part its project and name. */
    target: text("target").notNull(),
    on: boolean("on").notNull(),
    why: text("why").$type<FollowReason>().notNull(),
    since: instant("since").notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.personId, t.kind, t.target] }),
    index("follow_target").on(t.kind, t.target),
    check("follow_kind", sql`${t.kind} in ('item', 'below', 'label', 'part', 'view')`),
  ],
);

/** Items of which a person wants no mail any more, whatever their rules say. */
export const mailStopped = pgTable(
  "mail_stopped",
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

/** The private address at which a person's feed is read. Of the address itself only a digest is kept. */
export const personFeed = pgTable("person_feed", {
  personId: text("person_id")
    .primaryKey()
    .references(() => person.id, { onDelete: "cascade" }),
  digest: text("digest").notNull().unique(),
  since: instant("since").notNull(),
  readAt: instant("read_at"),
});

/** Dates of which somebody was told that they are at risk: each once. */
export const riskTold = pgTable(
  "risk_told",
  {
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    dueOn: date("due_on", { mode: "string" }).notNull(),
    at: instant("at").notNull(),
  },
  (t) => [primaryKey({ columns: [t.itemId, t.dueOn] })],
);

/** A small thing about an item that a person put to rest, with why, until the item changes. */
export const putToRest = pgTable(
  "put_to_rest",
  {
    personId: text("person_id")
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    thing: text("thing").$type<SmallThing>().notNull(),
    why: text("why").notNull(),
    at: instant("at").notNull(),
  },
  (t) => [primaryKey({ columns: [t.personId, t.itemId, t.thing] })],
);

/** When a person works and may be written to; whoever has no row keeps the usual hours. */
export const personHours = pgTable("person_hours", {
  personId: text("person_id")
    .primaryKey()
    .references(() => person.id, { onDelete: "cascade" }),
  zone: text("zone").notNull(),
  /** Of the week, 0 is Monday. */
  workDays: integer("work_days").array().notNull(),
  hoursADay: doublePrecision("hours_a_day").notNull().default(8),
  /** Minutes since midnight; both null where no hours are quiet. */
  quietFrom: integer("quiet_from"),
  quietTo: integer("quiet_to"),
  morningAt: integer("morning_at").notNull(),
  weeklyOn: integer("weekly_on").notNull(),
});

/** Days on which a person is away. */
export const dayOff = pgTable(
  "day_off",
  {
    personId: text("person_id")
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    from: date("from_day", { mode: "string" }).notNull(),
    to: date("to_day", { mode: "string" }).notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.personId, t.from] }),
    check("day_off_order", sql`${t.to} >= ${t.from}`),
  ],
);

/** Who outside may post events to a project, with the secret that their events are signed with. */
export const eventSource = pgTable(
  "event_source",
  {
    id: text("id").primaryKey(),
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    name: text("name").notNull(),
    secret: text("secret").notNull(),
    /** Where it takes requests, such as to deploy; null where it takes none. */
    asksAt: text("asks_at"),
    createdBy: text("created_by")
      .notNull()
      .references(() => person.id),
    createdAt: instant("created_at").notNull(),
    lastHeardAt: instant("last_heard_at"),
    removedAt: instant("removed_at"),
  },
  (t) => [index("event_source_project").on(t.projectId)],
);

/** A further project that a source speaks for, as a lead of both has said. */
export const attachedSource = pgTable(
  "attached_source",
  {
    sourceId: text("source_id")
      .notNull()
      .references(() => eventSource.id),
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    attachedBy: text("attached_by")
      .notNull()
      .references(() => person.id),
    attachedAt: instant("attached_at").notNull(),
    detachedAt: instant("detached_at"),
  },
  (t) => [
    primaryKey({ columns: [t.sourceId, t.projectId] }),
    index("attached_source_project").on(t.projectId),
  ],
);

/** Events that were taken in: sent again, they change nothing. */
export const receivedEvent = pgTable(
  "received_event",
  {
    sourceId: text("source_id")
      .notNull()
      .references(() => eventSource.id),
    eventId: text("event_id").notNull(),
    at: instant("at").notNull(),
  },
  (t) => [primaryKey({ columns: [t.sourceId, t.eventId] }), index("received_event_at").on(t.at)],
);
