import { sql } from "drizzle-orm";
import { check, jsonb, pgTable, primaryKey, text } from "drizzle-orm/pg-core";
import type { Pennant, TermHue, TermKind } from "@/core/item/terms/term";
import { instant } from "./columns";
import { person } from "./people";
import { project } from "./project";

/**
 * What a project says of the words that its items are labelled with, and of the parts of its
 * product. Items hold the words themselves; one without a row here has not been described yet.
 */
export const projectTerm = pgTable(
  "project_term",
  {
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    kind: text("kind").$type<TermKind>().notNull(),
    name: text("name").notNull(),
    meaning: text("meaning").notNull(),
    sign: text("sign").$type<Pennant>().notNull(),
    hue: text("hue").$type<TermHue>().notNull(),
    ownerId: text("owner_id").references(() => person.id),
    /** What it was called before, and what was merged into it. */
    earlier: jsonb("earlier").$type<string[]>().notNull().default([]),
    /** Of a part: places, as people write them, that belong to it. */
    places: jsonb("places").$type<string[]>().notNull().default([]),
    endedAt: instant("ended_at"),
  },
  (t) => [
    primaryKey({ columns: [t.projectId, t.kind, t.name] }),
    check("project_term_kind", sql`${t.kind} in ('label', 'part')`),
    check("project_term_name", sql`length(${t.name}) between 1 and 40`),
  ],
);
