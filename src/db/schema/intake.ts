import { sql } from "drizzle-orm";
import { bigserial, check, date, index, integer, jsonb, pgTable, primaryKey, text, uuid } from "drizzle-orm/pg-core";
import type { ReportStanding, ReportStatus, ReportWay } from "@/core/intake/report";
import type { Verdict } from "@/core/intake/verdict";
import { bytes, instant } from "./columns";
import { item } from "./item";
import { person } from "./people";
import { project } from "./project";

/** What somebody without an account told us. */
export const report = pgTable(
  "report",
  {
    id: uuid("id").primaryKey(),
    projectId: text("project_id").notNull().references(() => project.id),
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
    /** The table it was imported with, and which part of it. */
    importId: uuid("import_id"),
    importPart: integer("import_part"),
    itemId: uuid("item_id").references(() => item.id),
    parkedUntil: date("parked_until", { mode: "string" }),
    declineReason: text("decline_reason"),
    receivedAt: instant("received_at").notNull(),
    /** When an answer or a park date brought it back to the queue. */
    returnedAt: instant("returned_at"),
    version: integer("version").notNull(),
  },
  (t) => [
    index("report_queue").on(t.projectId, t.status, t.receivedAt),
    index("report_item").on(t.itemId),
    index("report_import").on(t.importId),
    index("report_words").using("gin", sql`to_tsvector('english', ${t.title} || ' ' || ${t.happened})`),
    check("report_status", sql`${t.status} in ('unjudged', 'asked', 'parked', 'accepted', 'merged', 'declined')`),
    check("report_item_given", sql`(${t.status} in ('accepted', 'merged')) = (${t.itemId} is not null)`),
    check("report_parked", sql`(${t.status} = 'parked') = (${t.parkedUntil} is not null)`),
    check("report_sizes", sql`length(${t.title}) between 1 and 200 and length(${t.happened}) <= 10000 and length(${t.reproduce}) <= 10000`),
  ],
);

export const reportPicture = pgTable("report_picture", {
  reportId: uuid("report_id").primaryKey().references(() => report.id),
  mediaType: text("media_type").notNull(),
  content: bytes("content").notNull(),
});

/** Questions to the requester, their answers, and word of what became of the report. */
export const reportMessage = pgTable(
  "report_message",
  {
    id: bigserial("id", { mode: "number" }).primaryKey(),
    reportId: uuid("report_id").notNull().references(() => report.id),
    kind: text("kind").$type<"question" | "answer" | "progress">().notNull(),
    body: text("body").notNull(),
    authorId: text("author_id").references(() => person.id),
    at: instant("at").notNull(),
    /** A question that was taken back by undoing the verdict. */
    takenBackAt: instant("taken_back_at"),
  },
  (t) => [
    index("report_message_report").on(t.reportId),
    check("report_message_kind", sql`${t.kind} in ('question', 'answer', 'progress')`),
  ],
);

/** Every verdict ever given, and whether it was undone. */
export const reportVerdict = pgTable(
  "report_verdict",
  {
    id: uuid("id").primaryKey(),
    reportId: uuid("report_id").notNull().references(() => report.id),
    verdict: jsonb("verdict").$type<Verdict>().notNull(),
    before: jsonb("before").$type<ReportStanding>().notNull(),
    after: jsonb("after").$type<ReportStanding>().notNull(),
    byId: text("by_id").notNull().references(() => person.id),
    at: instant("at").notNull(),
    undoneAt: instant("undone_at"),
    undoneById: text("undone_by_id").references(() => person.id),
  },
  (t) => [index("report_verdict_report").on(t.reportId)],
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
