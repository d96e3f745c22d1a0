import { sql } from "drizzle-orm";
import {
  check,
  date,
  index,
  integer,
  pgTable,
  primaryKey,
  text,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import type { WalkOrder } from "@/core/walk/walk";
import { board } from "./board";
import { instant } from "./columns";
import { item } from "./item";
import { person } from "./people";

/** Going through a board together: by whom, when, how long. */
export const walk = pgTable(
  "walk",
  {
    id: uuid("id").primaryKey(),
    boardId: text("board_id")
      .notNull()
      .references(() => board.id, { onDelete: "cascade" }),
    order: text("walk_order").$type<WalkOrder>().notNull(),
    minutes: integer("minutes").notNull(),
    ledBy: text("led_by")
      .notNull()
      .references(() => person.id),
    startedAt: instant("started_at").notNull(),
    endedAt: instant("ended_at"),
    /** The item that everybody looks at. */
    itemId: uuid("item_id").references(() => item.id),
  },
  (t) => [
    // One at a time.
    uniqueIndex("walk_running")
      .on(t.boardId)
      .where(sql`${t.endedAt} is null`),
    index("walk_board").on(t.boardId, t.startedAt),
    check("walk_order_known", sql`${t.order} in ('from the end', 'by person', 'by story')`),
  ],
);

/** What was seen on a walk. */
export const walkSeen = pgTable(
  "walk_seen",
  {
    walkId: uuid("walk_id")
      .notNull()
      .references(() => walk.id, { onDelete: "cascade" }),
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    at: instant("at").notNull(),
  },
  (t) => [primaryKey({ columns: [t.walkId, t.itemId] })],
);

/** What was agreed on about an item, or left for later. */
export const walkNote = pgTable(
  "walk_note",
  {
    id: uuid("id").primaryKey(),
    walkId: uuid("walk_id")
      .notNull()
      .references(() => walk.id, { onDelete: "cascade" }),
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    kind: text("kind").$type<"agreed" | "later">().notNull(),
    /** What is left for later; what is agreed on stands in the comment. */
    text: text("text"),
    commentId: uuid("comment_id"),
    ownerId: text("owner_id").references(() => person.id),
    dueOn: date("due_on", { mode: "string" }),
    byId: text("by_id")
      .notNull()
      .references(() => person.id),
    at: instant("at").notNull(),
  },
  (t) => [
    index("walk_note_walk").on(t.walkId),
    index("walk_note_item").on(t.itemId),
    check("walk_note_kind", sql`${t.kind} in ('agreed', 'later')`),
  ],
);
