import { sql } from "drizzle-orm";
import { check, date, index, pgTable, text } from "drizzle-orm/pg-core";
import { instant } from "./columns";
import { project } from "./project";

/** A time box of at most one month with a goal. Both days belong to it. */
export const sprint = pgTable(
  "sprint",
  {
    id: text("id").primaryKey(),
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    name: text("name").notNull(),
    goal: text("goal").notNull(),
    startsOn: date("starts_on", { mode: "string" }).notNull(),
    endsOn: date("ends_on", { mode: "string" }).notNull(),
    removedAt: instant("removed_at"),
  },
  (t) => [
    index("sprint_project").on(t.projectId, t.startsOn),
    check("sprint_length", sql`${t.endsOn} >= ${t.startsOn} and ${t.endsOn} <= ${t.startsOn} + 30`),
  ],
);

/** A named set of items that are delivered together. */
export const release = pgTable(
  "release",
  {
    id: text("id").primaryKey(),
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    name: text("name").notNull(),
    dueOn: date("due_on", { mode: "string" }),
    releasedAt: instant("released_at"),
    removedAt: instant("removed_at"),
  },
  (t) => [index("release_project").on(t.projectId)],
);
