import { sql } from "drizzle-orm";
import {
  check,
  foreignKey,
  index,
  jsonb,
  pgTable,
  primaryKey,
  text,
  uuid,
} from "drizzle-orm/pg-core";
import type { Audience, CommentSign, Named, TalkClosing } from "@/core/talk/comment";
import type { FileSpot } from "@/core/talk/spot";
import { instant } from "./columns";
import { person } from "./people";
import { item } from "./item";

export const comment = pgTable(
  "comment",
  {
    id: uuid("id").notNull(),
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    authorId: text("author_id").references(() => person.id),
    body: text("body").notNull(),
    at: instant("at").notNull(),
    /** The comment that it answers. */
    answersId: uuid("answers_id"),
    /** The place on a file that it is about. */
    spot: jsonb("spot").$type<FileSpot>(),
    named: jsonb("named").$type<Named>().notNull().default({ people: [], teams: [] }),
    /** People who are asked to answer it, by their ids. */
    asks: jsonb("asks").$type<string[]>().notNull().default([]),
    audience: text("audience").$type<Audience>().notNull().default("team"),
    editedAt: instant("edited_at"),
    /** When it was taken back, by whom and why. */
    goneAt: instant("gone_at"),
    goneBy: text("gone_by").references(() => person.id),
    whyGone: text("why_gone"),
  },
  (t) => [
    primaryKey({ columns: [t.itemId, t.id] }),
    // Questions, by whom they ask and who asks them: few comments are any.
    index("comment_asks")
      .using("gin", t.asks)
      .where(sql`${t.asks} <> '[]'::jsonb`),
    index("comment_asked_by")
      .on(t.authorId)
      .where(sql`${t.asks} <> '[]'::jsonb`),
    check("comment_audience", sql`${t.audience} in ('team', 'reporters')`),
    index("comment_words").using("gin", sql`to_tsvector('english', ${t.body})`),
  ],
);

/** A sign that somebody put to a comment instead of words. */
export const commentSign = pgTable(
  "comment_sign",
  {
    itemId: uuid("item_id").notNull(),
    commentId: uuid("comment_id").notNull(),
    personId: text("person_id")
      .notNull()
      .references(() => person.id),
    sign: text("sign").$type<CommentSign>().notNull(),
    at: instant("at").notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.itemId, t.commentId, t.personId, t.sign] }),
    foreignKey({ columns: [t.itemId, t.commentId], foreignColumns: [comment.itemId, comment.id] }),
  ],
);

/** Items whose talk was closed, for observers or for everybody. */
export const talkClosed = pgTable(
  "talk_closed",
  {
    itemId: uuid("item_id")
      .primaryKey()
      .references(() => item.id),
    closing: text("closing").$type<TalkClosing>().notNull(),
  },
  (t) => [check("talk_closed_closing", sql`${t.closing} in ('members', 'nobody')`)],
);
