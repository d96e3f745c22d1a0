import { boolean, pgTable, primaryKey, text, uuid } from "drizzle-orm/pg-core";
import { instant } from "./columns";
import { item } from "./item";
import { person } from "./people";
import { release } from "./plan";

/** What the notes of a release say of an item, where somebody wrote it or left it out. */
export const releaseNote = pgTable(
  "release_note",
  {
    releaseId: text("release_id")
      .notNull()
      .references(() => release.id),
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    /** Empty where it is to say what the item is called. */
    words: text("words").notNull(),
    /** Not for those outside. */
    internal: boolean("internal").notNull(),
    byId: text("by_id")
      .notNull()
      .references(() => person.id),
    at: instant("at").notNull(),
  },
  (t) => [primaryKey({ columns: [t.releaseId, t.itemId] })],
);
