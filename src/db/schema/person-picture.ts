import { pgTable, text } from "drizzle-orm/pg-core";
import { instant } from "./columns";
import { storedFile } from "./file";
import { person } from "./people";

/** The picture that a person has chosen of themselves. */
export const personPicture = pgTable("person_picture", {
  personId: text("person_id")
    .primaryKey()
    .references(() => person.id, { onDelete: "cascade" }),
  sha256: text("sha256")
    .notNull()
    .references(() => storedFile.sha256),
  mediaType: text("media_type").notNull(),
  at: instant("at").notNull(),
});
