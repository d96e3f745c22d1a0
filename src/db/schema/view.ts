import { sql } from "drizzle-orm";
import {
  boolean,
  check,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  uuid,
} from "drizzle-orm/pg-core";
import type { Condition } from "@/core/condition/condition";
import type { Folds } from "@/core/view/folds";
import type { Look } from "@/core/view/look";
import type { ViewPart } from "@/core/view/view";
import { instant } from "./columns";
import { person } from "./people";

/** A look at items that somebody keeps under a name. */
export const view = pgTable(
  "view",
  {
    id: uuid("id").primaryKey(),
    /** What it is about: a project, or a place above the projects. */
    groundId: text("project_id").notNull(),
    name: text("name").notNull(),
    /** Whose it is; null: the project's. */
    ownerId: text("owner_id").references(() => person.id),
    /** Whether others see one that is somebody's. */
    shown: boolean("shown").notNull(),
    look: jsonb("look").$type<Look>().notNull(),
    /** Where it stands in the frame that everybody of the project has; null: nowhere. */
    place: integer("place"),
    version: integer("version").notNull(),
    madeAt: instant("made_at").notNull(),
    putAwayAt: instant("put_away_at"),
    putAwayBy: text("put_away_by").references(() => person.id),
  },
  (t) => [
    index("view_project").on(t.groundId),
    check("view_framed", sql`${t.place} is null or ${t.ownerId} is null or ${t.shown}`),
  ],
);

/** What a view was before each change, by part: for whoever changes an older version of it. */
export const viewChange = pgTable(
  "view_change",
  {
    viewId: uuid("view_id")
      .notNull()
      .references(() => view.id),
    /** The version that the change made. */
    version: integer("version").notNull(),
    changedBy: text("changed_by")
      .notNull()
      .references(() => person.id),
    changedAt: instant("changed_at").notNull(),
    before: jsonb("before").$type<Partial<Record<ViewPart, unknown>>>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.viewId, t.version] })],
);

/** What a person has to do with a view: whether it is a favourite, and when they opened it last. */
export const viewUse = pgTable(
  "view_use",
  {
    viewId: uuid("view_id")
      .notNull()
      .references(() => view.id),
    personId: text("person_id")
      .notNull()
      .references(() => person.id),
    favourite: boolean("favourite").notNull().default(false),
    openedAt: instant("opened_at"),
  },
  (t) => [primaryKey({ columns: [t.viewId, t.personId] }), index("view_use_person").on(t.personId)],
);

/** What a person has folded away of a view, or of a board where they look at no view. */
export const viewFold = pgTable(
  "view_fold",
  {
    personId: text("person_id")
      .notNull()
      .references(() => person.id),
    groundId: text("project_id").notNull(),
    /** The id of the view or the board. */
    place: text("place").notNull(),
    folds: jsonb("folds").$type<Folds>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.personId, t.groundId, t.place] })],
);

/** A look that was too long for an address, under the beginning of its SHA-256. */
export const shortLook = pgTable("short_look", {
  id: text("id").primaryKey(),
  /** As it stands in an address, by the names of the parts. */
  search: jsonb("search").$type<Record<string, string>>().notNull(),
  madeAt: instant("made_at").notNull(),
});

/** A condition that a project has given a name, to be chosen with one press. */
export const namedCondition = pgTable(
  "named_condition",
  {
    id: uuid("id").primaryKey(),
    groundId: text("project_id").notNull(),
    name: text("name").notNull(),
    condition: jsonb("condition").$type<Condition>().notNull(),
    position: integer("position").notNull(),
  },
  (t) => [index("named_condition_project").on(t.groundId)],
);
