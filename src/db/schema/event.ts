import { sql } from "drizzle-orm";
import {
  bigint,
  bigserial,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  uuid,
} from "drizzle-orm/pg-core";
import type { EventData, EventKind } from "@/core/events/catalogue";
import { instant, transactionId } from "./columns";
import { project } from "./project";

/**
 * What happened, for everyone who listens: open pages by their streams, the worker's consumers for
 * what follows. Kinds and data are those of the catalogue.
 */
export const domainEvent = pgTable(
  "domain_event",
  {
    id: bigserial("id", { mode: "number" }).primaryKey(),
    /**
     * The transaction that wrote it. Ids are given before commits; in the order of transactions
     * that have ended nothing comes in behind.
     */
    tx: transactionId("tx")
      .notNull()
      .default(sql`pg_current_xact_id()`),
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    at: instant("at").notNull(),
    kind: text("kind").$type<EventKind>().notNull(),
    /** Of the shape of its data. */
    version: integer("version").notNull(),
    data: jsonb("data").$type<EventData>().notNull(),
    /** What it is about, where that is an item or a report. */
    itemId: uuid("item_id"),
    reportId: uuid("report_id"),
  },
  (t) => [
    index("domain_event_project").on(t.projectId, t.id),
    index("domain_event_order").on(t.tx, t.id),
    index("domain_event_item").on(t.itemId),
  ],
);

/** How far each consumer has come. Its row is the lock: one worker at a time goes on with it. */
export const eventConsumer = pgTable("event_consumer", {
  name: text("name").primaryKey(),
  tx: transactionId("tx").notNull(),
  eventId: bigint("event_id", { mode: "number" }).notNull(),
});

/** Events that a consumer could not follow up: tried again later, and kept when it gave up. */
export const eventShelf = pgTable(
  "event_shelf",
  {
    consumer: text("consumer").notNull(),
    eventId: bigint("event_id", { mode: "number" })
      .notNull()
      .references(() => domainEvent.id, { onDelete: "cascade" }),
    tries: integer("tries").notNull(),
    /** Null: given up, until somebody looks. */
    nextAt: instant("next_at"),
    /** Kind, code and place of the failure; never words that somebody wrote. */
    failure: jsonb("failure").$type<Record<string, unknown>>().notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.consumer, t.eventId] }),
    index("event_shelf_due").on(t.nextAt),
    index("event_shelf_event").on(t.eventId),
  ],
);
