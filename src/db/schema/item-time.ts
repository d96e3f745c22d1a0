import { sql } from "drizzle-orm";
import { check, date, index, integer, pgTable, primaryKey, text, uuid } from "drizzle-orm/pg-core";
import { instant } from "./columns";
import { person } from "./people";
import { item } from "./item";

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
