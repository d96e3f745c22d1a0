import { sql } from "drizzle-orm";
import { check, index, integer, pgTable, text, uuid } from "drizzle-orm/pg-core";
import { instant } from "./columns";
import { storedFile } from "./file";
import { item } from "./item";
import { person } from "./people";

/** A file that somebody put to an item. */
export const itemFile = pgTable(
  "item_file",
  {
    id: uuid("id").primaryKey(),
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    name: text("name").notNull(),
    /** By the bytes, not by what the sender says. */
    mediaType: text("media_type").notNull(),
    /** Null where it was removed for good. */
    sha256: text("sha256").references(() => storedFile.sha256),
    size: integer("size").notNull(),
    /** Of a picture that may be drawn in a page, in pixels. */
    width: integer("width"),
    height: integer("height"),
    byId: text("by_id").references(() => person.id),
    at: instant("at").notNull(),
    /** Taken off; it can be put back while its bytes are there. */
    removedAt: instant("removed_at"),
  },
  (t) => [
    index("item_file_item").on(t.itemId),
    index("item_file_content").on(t.sha256),
    check("item_file_name", sql`length(${t.name}) between 1 and 200`),
    check("item_file_picture", sql`(${t.width} is null) = (${t.height} is null)`),
  ],
);
