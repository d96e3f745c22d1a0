import { sql } from "drizzle-orm";
import { bigserial, index, pgTable, primaryKey, text, uuid } from "drizzle-orm/pg-core";
import { instant } from "./columns";
import { item } from "./item";
import { person } from "./people";
import { project } from "./project";

/** Something that somebody was told about an item. */
export const notice = pgTable(
  "notice",
  {
    id: bigserial("id", { mode: "number" }).primaryKey(),
    personId: text("person_id")
      .notNull()
      .references(() => person.id),
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    /** What else it is about, where it is about several. */
    otherIds: uuid("other_ids")
      .array()
      .notNull()
      .default(sql`'{}'`),
    text: text("text").notNull(),
    at: instant("at").notNull(),
    readAt: instant("read_at"),
  },
  (t) => [index("notice_person").on(t.personId, t.readAt, t.at)],
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
    createdBy: text("created_by")
      .notNull()
      .references(() => person.id),
    createdAt: instant("created_at").notNull(),
    lastHeardAt: instant("last_heard_at"),
    removedAt: instant("removed_at"),
  },
  (t) => [index("event_source_project").on(t.projectId)],
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
