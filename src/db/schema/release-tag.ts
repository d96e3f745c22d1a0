import { pgTable, primaryKey, text, uuid } from "drizzle-orm/pg-core";
import { instant } from "./columns";
import { person } from "./people";
import { release } from "./plan";
import { codeRepository } from "./ship";

/** That a code host was asked to tag a commit as that of a release; its own event says that it is there. */
export const releaseTag = pgTable(
  "release_tag",
  {
    releaseId: text("release_id")
      .notNull()
      .references(() => release.id),
    repositoryId: uuid("repository_id")
      .notNull()
      .references(() => codeRepository.id),
    name: text("name").notNull(),
    commit: text("commit").notNull(),
    askedBy: text("asked_by")
      .notNull()
      .references(() => person.id),
    askedAt: instant("asked_at").notNull(),
    /** Why the host did not take it; null where it did. */
    refused: text("refused"),
    /** When the host said that it is there. */
    tagAt: instant("tag_at"),
  },
  (t) => [primaryKey({ columns: [t.releaseId, t.repositoryId] })],
);
