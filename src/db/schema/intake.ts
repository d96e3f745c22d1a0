import { sql } from "drizzle-orm";
import {
  bigserial,
  boolean,
  check,
  date,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import type { FormAnswer, FormDefinition } from "@/core/intake/form";
import type { ReproductionResult } from "@/core/intake/reproduction";
import type { ReportStanding, ReportStatus, ReportWay } from "@/core/intake/report";
import type { RequesterMessageKind } from "@/core/intake/private-page";
import type { ReportEventKind } from "@/core/intake/report-history";
import type { Verdict } from "@/core/intake/verdict";
import type { MailFate } from "@/core/intake/letters";
import { bytes, instant } from "./columns";
import { storedFile } from "./file";
import { item } from "./item";
import { person, team } from "./people";
import { project } from "./project";

/** A public form of a project, by which people without an account report. */
export const intakeForm = pgTable(
  "intake_form",
  {
    id: uuid("id").primaryKey(),
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    /** Names it in its public address. */
    slug: text("slug").notNull(),
    definition: jsonb("definition").$type<FormDefinition>().notNull(),
    open: boolean("open").notNull(),
    /** Whether other sites may show it in a frame. */
    embeddable: boolean("embeddable").notNull(),
    position: integer("position").notNull(),
    version: integer("version").notNull(),
    removedAt: instant("removed_at"),
  },
  (t) => [
    uniqueIndex("intake_form_slug")
      .on(t.projectId, t.slug)
      .where(sql`${t.removedAt} is null`),
  ],
);

/** What somebody without an account told us. */
export const report = pgTable(
  "report",
  {
    id: uuid("id").primaryKey(),
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    /** What people say to each other, e.g. R-1042. Never enough to open the private page. */
    reference: text("reference").notNull().unique(),
    /** Opens the private page. */
    token: text("token").notNull().unique(),
    title: text("title").notNull(),
    happened: text("happened").notNull(),
    reproduce: text("reproduce").notNull(),
    place: text("place").notNull(),
    mail: text("mail").notNull(),
    status: text("status").$type<ReportStatus>().notNull(),
    /** How it came in. */
    way: text("way").$type<ReportWay>().notNull().default("form"),
    /** The form it was sent with, and what was answered to its own questions. */
    formId: uuid("form_id").references(() => intakeForm.id),
    answers: jsonb("answers").$type<FormAnswer[]>().notNull().default([]),
    /** Whose it is before anybody judged it, as its form or address says. */
    teamId: text("team_id").references(() => team.id),
    /** Parts of the product that somebody said it is about; null where nobody has. */
    parts: jsonb("parts").$type<string[]>(),
    /** The table it was imported with, and which part of it. */
    importId: uuid("import_id"),
    importPart: integer("import_part"),
    itemId: uuid("item_id").references(() => item.id),
    parkedUntil: date("parked_until", { mode: "string" }),
    /** Parked until this item is finished. */
    parkedItemId: uuid("parked_item_id").references(() => item.id),
    declineReason: text("decline_reason"),
    receivedAt: instant("received_at").notNull(),
    /** When an answer or a park date brought it back to the queue. */
    returnedAt: instant("returned_at"),
    /** Grows whenever the report stands elsewhere. */
    version: integer("version").notNull(),
    /** Number of the last event of its history. */
    seq: integer("seq").notNull().default(0),
  },
  (t) => [
    index("report_queue").on(t.projectId, t.status, t.receivedAt),
    index("report_item").on(t.itemId),
    index("report_import").on(t.importId),
    index("report_words").using(
      "gin",
      sql`to_tsvector('english', ${t.title} || ' ' || ${t.happened})`,
    ),
    index("report_title_trigrams").using("gin", t.title.op("gin_trgm_ops")),
    check(
      "report_status",
      sql`${t.status} in ('unjudged', 'asked', 'parked', 'accepted', 'merged', 'declined')`,
    ),
    check(
      "report_item_given",
      sql`(${t.status} in ('accepted', 'merged')) = (${t.itemId} is not null)`,
    ),
    index("report_parked_item").on(t.parkedItemId),
    check(
      "report_parked",
      sql`(${t.status} = 'parked') = (${t.parkedUntil} is not null or ${t.parkedItemId} is not null)`,
    ),
    check(
      "report_sizes",
      sql`length(${t.title}) between 1 and 200 and length(${t.happened}) <= 10000 and length(${t.reproduce}) <= 10000`,
    ),
  ],
);

/**
 * A report's append-only history. A trigger in the database refuses changing a row; with a report
 * whose import was taken back untouched its history goes too.
 */
export const reportEvent = pgTable(
  "report_event",
  {
    reportId: uuid("report_id")
      .notNull()
      .references(() => report.id, { onDelete: "cascade" }),
    seq: integer("seq").notNull(),
    at: instant("at").notNull(),
    actorId: text("actor_id").references(() => person.id),
    kind: text("kind").$type<ReportEventKind>().notNull(),
    data: jsonb("data").notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.reportId, t.seq] }),
    check("report_event_seq", sql`${t.seq} > 0`),
  ],
);

/** Pictures and files that came with a report or with an answer to it. */
export const reportFile = pgTable(
  "report_file",
  {
    id: uuid("id").primaryKey(),
    reportId: uuid("report_id")
      .notNull()
      .references(() => report.id),
    name: text("name").notNull(),
    /** By the bytes, not by what the sender says. */
    mediaType: text("media_type").notNull(),
    sha256: text("sha256")
      .notNull()
      .references(() => storedFile.sha256),
    at: instant("at").notNull(),
  },
  (t) => [
    index("report_file_report").on(t.reportId),
    index("report_file_content").on(t.sha256),
    check("report_file_name", sql`length(${t.name}) between 1 and 200`),
  ],
);

/**
 * Somebody else whom the same thing happened to: they follow a report on a private page of their
 * own.
 */
export const reportFollower = pgTable(
  "report_follower",
  {
    id: uuid("id").primaryKey(),
    reportId: uuid("report_id")
      .notNull()
      .references(() => report.id),
    mail: text("mail").notNull(),
    token: text("token").notNull().unique(),
    at: instant("at").notNull(),
  },
  (t) => [uniqueIndex("report_follower_mail").on(t.reportId, t.mail)],
);

/** Who tried to make it happen, where, on which version, and what came of it. */
export const reproduction = pgTable(
  "reproduction",
  {
    id: uuid("id").primaryKey(),
    reportId: uuid("report_id")
      .notNull()
      .references(() => report.id),
    byId: text("by_id")
      .notNull()
      .references(() => person.id),
    at: instant("at").notNull(),
    tried: text("tried").notNull(),
    version: text("version").notNull(),
    steps: text("steps").notNull().default(""),
    result: text("result").$type<ReproductionResult>().notNull(),
    note: text("note").notNull(),
    takenBackAt: instant("taken_back_at"),
  },
  (t) => [
    index("reproduction_report").on(t.reportId),
    check(
      "reproduction_result",
      sql`${t.result} in ('happened', 'happened sometimes', 'did not happen')`,
    ),
  ],
);

/** Who has which report open on the desk, and when they last said so. */
export const deskPresence = pgTable("desk_presence", {
  personId: text("person_id")
    .primaryKey()
    .references(() => person.id),
  reportId: uuid("report_id")
    .notNull()
    .references(() => report.id),
  at: instant("at").notNull(),
});

/** What a browser without JavaScript sent by a form and could not be taken, for an hour. */
export const formAttempt = pgTable(
  "form_attempt",
  {
    token: text("token").primaryKey(),
    formId: text("form_id").notNull(),
    values: jsonb("values").$type<Record<string, readonly string[] | undefined>>().notNull(),
    errors: jsonb("errors").$type<{ field: string; message: string }[]>().notNull(),
    at: instant("at").notNull(),
  },
  (t) => [index("form_attempt_at").on(t.at)],
);

/** A problem that everybody may know of, in words for people outside. */
export const knownProblem = pgTable("known_problem", {
  itemId: uuid("item_id")
    .primaryKey()
    .references(() => item.id),
  words: text("words").notNull(),
  byId: text("by_id")
    .notNull()
    .references(() => person.id),
  at: instant("at").notNull(),
});

/** Questions to the requester, their answers, and word of what became of the report. */
export const reportMessage = pgTable(
  "report_message",
  {
    id: bigserial("id", { mode: "number" }).primaryKey(),
    reportId: uuid("report_id")
      .notNull()
      .references(() => report.id),
    kind: text("kind").$type<RequesterMessageKind>().notNull(),
    body: text("body").notNull(),
    authorId: text("author_id").references(() => person.id),
    at: instant("at").notNull(),
    /** A question that was taken back by undoing the verdict. */
    takenBackAt: instant("taken_back_at"),
  },
  (t) => [
    index("report_message_report").on(t.reportId),
    check(
      "report_message_kind",
      sql`${t.kind} in ('question', 'reminder', 'answer', 'progress', 'news')`,
    ),
  ],
);

/** Every verdict ever given, and whether it was undone. */
export const reportVerdict = pgTable(
  "report_verdict",
  {
    id: uuid("id").primaryKey(),
    reportId: uuid("report_id")
      .notNull()
      .references(() => report.id),
    verdict: jsonb("verdict").$type<Verdict>().notNull(),
    before: jsonb("before").$type<ReportStanding>().notNull(),
    after: jsonb("after").$type<ReportStanding>().notNull(),
    /** Nobody where a rule of the project gave it. */
    byId: text("by_id").references(() => person.id),
    at: instant("at").notNull(),
    /** How long the report was read and judged; null where nobody measured. */
    tookMs: integer("took_ms"),
    undoneAt: instant("undone_at"),
    undoneById: text("undone_by_id").references(() => person.id),
  },
  (t) => [index("report_verdict_report").on(t.reportId)],
);

/** An address of a project that takes mail. */
export const mailAddress = pgTable(
  "mail_address",
  {
    /** What stands before the @. */
    name: text("name").primaryKey(),
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    teamId: text("team_id").references(() => team.id),
    open: boolean("open").notNull(),
    createdAt: instant("created_at").notNull(),
  },
  (t) => [check("mail_address_name", sql`${t.name} ~ '^[a-z0-9][a-z0-9.-]{0,62}$'`)],
);

/** Mail to requesters: written with what it tells of, sent by the worker. */
export const mailOut = pgTable(
  "mail_out",
  {
    id: bigserial("id", { mode: "number" }).primaryKey(),
    /** Its Message-ID; answers name it. */
    messageId: text("message_id").notNull().unique(),
    reportId: uuid("report_id")
      .notNull()
      .references(() => report.id),
    recipient: text("recipient").notNull(),
    subject: text("subject").notNull(),
    body: text("body").notNull(),
    /** The verdict that it tells of; taken back with it while it is not sent. */
    verdictId: uuid("verdict_id"),
    /** The item whose end it tells of; taken back when that does not last. */
    itemId: uuid("item_id"),
    at: instant("at").notNull(),
    /** When it is tried next. */
    dueAt: instant("due_at").notNull(),
    tries: integer("tries").notNull().default(0),
    sentAt: instant("sent_at"),
    /** Whether it says that a delivery was taken back: who was told so hears again once it is out. */
    takesBack: boolean("takes_back").notNull().default(false),
    /** Given up, taken back, or come back undelivered, with why. */
    failed: text("failed"),
  },
  (t) => [
    index("mail_out_waiting")
      .on(t.dueAt)
      .where(sql`${t.sentAt} is null and ${t.failed} is null`),
    index("mail_out_report").on(t.reportId),
  ],
);

/** Mail that was taken in, so that none is taken twice, and what became of it. */
export const mailIn = pgTable(
  "mail_in",
  {
    /** Its Message-ID, or a digest of it where it has none. */
    messageId: text("message_id").notNull(),
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    reportId: uuid("report_id").references(() => report.id),
    sender: text("sender").notNull(),
    subject: text("subject").notNull(),
    became: text("became").$type<MailFate>().notNull(),
    /** Of an answer to an alert: the item that it is about. */
    itemId: uuid("item_id").references(() => item.id),
    /** Why it was not taken, and what it says. */
    why: text("why"),
    words: text("words"),
    at: instant("at").notNull(),
  },
  // One mail to two projects is taken by both.
  (t) => [
    primaryKey({ columns: [t.messageId, t.projectId] }),
    index("mail_in_project").on(t.projectId, t.at),
  ],
);

/** Mail as it was handed over, until it is read. It is acknowledged when it stands here. */
export const mailWaiting = pgTable(
  "mail_waiting",
  {
    id: uuid("id").primaryKey(),
    /** Whose address it was handed over for, and which team that is of. */
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    teamId: text("team_id").references(() => team.id),
    /** Where failures go; empty for mails that must not be answered. */
    returnPath: text("return_path").notNull(),
    /** Of an answer to a mail about an alert: that alert. */
    alertId: uuid("alert_id"),
    raw: bytes("raw").notNull(),
    at: instant("at").notNull(),
    /** How often reading it was begun. */
    tries: integer("tries").notNull().default(0),
    /** When it is read, or tried again. */
    dueAt: instant("due_at").notNull(),
  },
  (t) => [index("mail_waiting_due").on(t.dueAt)],
);

/** How often something was done by somebody in a stretch of time; for what needs no account. */
export const rateCount = pgTable(
  "rate_count",
  {
    key: text("key").notNull(),
    windowStart: instant("window_start").notNull(),
    count: integer("count").notNull(),
  },
  (t) => [primaryKey({ columns: [t.key, t.windowStart] })],
);

/** When the worker last said that it is alive. */
export const workerPulse = pgTable("worker_pulse", {
  id: integer("id").primaryKey(),
  at: instant("at").notNull(),
});

/**
 * What the texts of items and of waiting reports mean, as the sentence model gives it. Made in the
 * background, and anew when lost.
 */
export const textMeaning = pgTable(
  "text_meaning",
  {
    about: text("about").$type<"item" | "report">().notNull(),
    id: uuid("id").notNull(),
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    /** The version of the item or report whose text was read. */
    version: integer("version").notNull(),
    /** Of that text: a change that leaves the words alone needs no second reading. */
    digest: text("digest").notNull(),
    meaning: bytes("meaning").notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.about, t.id] }),
    index("text_meaning_project").on(t.projectId, t.about),
  ],
);
