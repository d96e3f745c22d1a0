import { index, pgTable, text, unique } from "drizzle-orm/pg-core";
import { instant } from "./columns";
import { person } from "./people";
import { project } from "./project";

/** Private addresses at which somebody's calendar program reads days: of a project, or their own. */
export const calendarFeed = pgTable(
  "calendar_feed",
  {
    /** Of the address: what it is itself is told once, and kept nowhere. */
    digest: text("digest").primaryKey(),
    personId: text("person_id")
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    /** Null: what is theirs, of all their projects. */
    projectId: text("project_id").references(() => project.id),
    since: instant("since").notNull(),
    readAt: instant("read_at"),
  },
  (t) => [
    unique("calendar_feed_one_each").on(t.personId, t.projectId).nullsNotDistinct(),
    index("calendar_feed_project").on(t.projectId),
  ],
);
