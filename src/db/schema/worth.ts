import { sql } from "drizzle-orm";
import { check, integer, jsonb, pgTable, primaryKey, text, uuid } from "drizzle-orm/pg-core";
import type { WorkingCalendar } from "@/core/calendar/working-time";
import type { ScoringModel } from "@/core/intake/scoring";
import type { ServiceTarget } from "@/core/intake/service-target";
import type { VoteSide } from "@/core/item/vote";
import type { TriageRules } from "@/core/intake/triage-rules";
import { instant } from "./columns";
import { item } from "./item";
import { person } from "./people";
import { project } from "./project";

/**
 * What a project promises and how it weighs requests. One row for each project that has said so.
 */
export const intakeRules = pgTable("intake_rules", {
  projectId: text("project_id")
    .primaryKey()
    .references(() => project.id),
  calendar: jsonb("calendar").$type<WorkingCalendar>().notNull(),
  targets: jsonb("targets").$type<ServiceTarget[]>().notNull(),
  scoring: jsonb("scoring").$type<ScoringModel>().notNull(),
  triage: jsonb("triage").$type<TriageRules>().notNull(),
  /** Counts changes, so that two leads who edit at once notice each other. */
  version: integer("version").notNull(),
});

/** How a request was judged by the criteria of its project. */
export const itemScore = pgTable("item_score", {
  itemId: uuid("item_id")
    .primaryKey()
    .references(() => item.id),
  scores: jsonb("scores").$type<Record<string, number>>().notNull(),
  byId: text("by_id")
    .notNull()
    .references(() => person.id),
  at: instant("at").notNull(),
});

/** Somebody who wants an item done, or would rather not have it. */
export const itemVote = pgTable(
  "item_vote",
  {
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    personId: text("person_id")
      .notNull()
      .references(() => person.id),
    side: text("side").$type<VoteSide>().notNull().default("for"),
    at: instant("at").notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.itemId, t.personId] }),
    check("item_vote_side", sql`${t.side} in ('for', 'against')`),
  ],
);
