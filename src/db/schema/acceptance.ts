import { sql } from "drizzle-orm";
import {
  boolean,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import type { TestShown } from "@/core/ship/acceptance/shown-item";
import { instant } from "./columns";
import { storedFile } from "./file";
import { item } from "./item";
import { person } from "./people";
import { project } from "./project";

/** That some work is shown to somebody, so that they accept it: a private page, or a person's own queue. */
export const showing = pgTable(
  "showing",
  {
    id: uuid("id").primaryKey(),
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    /** Whom it is shown to: somebody with an account, or whoever has the address of the page. */
    personId: text("person_id").references(() => person.id),
    /** As they are called among those who asked. */
    name: text("name").notNull(),
    mail: text("mail").notNull().default(""),
    /** The address of their page; null for somebody with an account. */
    token: text("token"),
    /** What was written to them. */
    words: text("words").notNull().default(""),
    askedBy: text("asked_by")
      .notNull()
      .references(() => person.id),
    askedAt: instant("asked_at").notNull(),
    until: instant("until").notNull(),
    revokedAt: instant("revoked_at"),
    reminders: integer("reminders").notNull().default(0),
    remindedAt: instant("reminded_at"),
  },
  (t) => [
    uniqueIndex("showing_token")
      .on(t.token)
      .where(sql`${t.token} is not null`),
    index("showing_project").on(t.projectId, t.askedAt),
    index("showing_person").on(t.personId),
  ],
);

const showingId = () =>
  uuid("showing_id")
    .notNull()
    .references(() => showing.id);

const itemId = () =>
  uuid("item_id")
    .notNull()
    .references(() => item.id);

/** A piece of work as it is shown: words for outside alone. */
export const shownItem = pgTable(
  "shown_item",
  {
    showingId: showingId(),
    itemId: itemId(),
    position: integer("position").notNull(),
    /** What was done, how it is seen, and where. */
    title: text("title").notNull(),
    how: text("how").notNull().default(""),
    address: text("address").notNull().default(""),
    /** What was tested, with what result. */
    tested: jsonb("tested").$type<TestShown[]>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.showingId, t.itemId] }), index("shown_item_item").on(t.itemId)],
);

/** A picture that is shown with it. */
export const shownPicture = pgTable(
  "shown_picture",
  {
    id: uuid("id").primaryKey(),
    showingId: showingId(),
    itemId: itemId(),
    name: text("name").notNull(),
    mediaType: text("media_type").notNull(),
    sha256: text("sha256")
      .notNull()
      .references(() => storedFile.sha256),
    width: integer("width"),
    height: integer("height"),
  },
  (t) => [
    index("shown_picture_showing").on(t.showingId),
    index("shown_picture_content").on(t.sha256),
  ],
);

/** What somebody said of a piece of work; the last thing counts. */
export const acceptanceAnswer = pgTable(
  "acceptance_answer",
  {
    id: uuid("id").primaryKey(),
    showingId: showingId(),
    itemId: itemId(),
    accepted: boolean("accepted").notNull(),
    /** As they typed it. */
    name: text("name").notNull(),
    words: text("words").notNull(),
    at: instant("at").notNull(),
    environment: text("environment"),
    build: text("build"),
    /** The commits of the item that were deployed anywhere then. */
    seen: jsonb("seen").$type<string[]>().notNull(),
  },
  (t) => [index("acceptance_answer_item").on(t.itemId, t.showingId, t.at)],
);
