import { sql } from "drizzle-orm";
import {
  doublePrecision,
  index,
  integer,
  pgTable,
  primaryKey,
  text,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import { instant } from "./columns";
import { item } from "./item";
import { person } from "./people";
import { project } from "./project";

/** A round in which several people say how large an item is. */
export const sizingRound = pgTable(
  "sizing_round",
  {
    id: uuid("id").primaryKey(),
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    openedBy: text("opened_by")
      .notNull()
      .references(() => person.id),
    openedAt: instant("opened_at").notNull(),
    /** When all may see what was said. */
    shownAt: instant("shown_at"),
    /** How many times it was done over. */
    again: integer("again").notNull().default(0),
    endedAt: instant("ended_at"),
  },
  (t) => [
    uniqueIndex("sizing_round_open")
      .on(t.itemId)
      .where(sql`${t.endedAt} is null`),
    index("sizing_round_project").on(t.projectId, t.endedAt),
  ],
);

/** What somebody said in a round; null: they cannot say. */
export const sizingVote = pgTable(
  "sizing_vote",
  {
    roundId: uuid("round_id")
      .notNull()
      .references(() => sizingRound.id, { onDelete: "cascade" }),
    personId: text("person_id")
      .notNull()
      .references(() => person.id),
    size: doublePrecision("size"),
    at: instant("at").notNull(),
  },
  (t) => [primaryKey({ columns: [t.roundId, t.personId] })],
);
