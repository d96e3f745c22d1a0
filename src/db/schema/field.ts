import { sql } from "drizzle-orm";
import { boolean, check, index, integer, jsonb, pgTable, text } from "drizzle-orm/pg-core";
import type { Arithmetic } from "@/core/condition/arithmetic";
import type { ShownSource } from "@/core/item/shown-source";
import type { OwnField, OwnFieldKind, OwnValue } from "@/core/item/own-field";
import { instant } from "./columns";
import { project } from "./project";

/**
 * Fields that a project made for itself. One that was taken out keeps its row: histories name it,
 * and it can come back.
 */
export const ownField = pgTable(
  "own_field",
  {
    id: text("id").primaryKey(),
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    name: text("name").notNull(),
    kind: text("kind").$type<OwnFieldKind>().notNull(),
    unit: text("unit"),
    options: jsonb("options").$type<OwnField["options"]>().notNull(),
    formula: jsonb("formula").$type<Arithmetic>(),
    source: jsonb("source").$type<ShownSource>(),
    initial: jsonb("initial").$type<OwnValue>(),
    typeIds: jsonb("type_ids").$type<string[]>().notNull(),
    requiredAtStart: boolean("required_at_start").notNull(),
    requiredTypeIds: jsonb("required_type_ids").$type<string[]>().notNull().default([]),
    onCard: boolean("on_card").notNull(),
    onNewItem: boolean("on_new_item").notNull(),
    position: integer("position").notNull(),
    removedAt: instant("removed_at"),
  },
  (t) => [
    index("own_field_project").on(t.projectId),
    check(
      "own_field_kind",
      sql`${t.kind} in ('text', 'number', 'date', 'one of', 'many of', 'person', 'yes or no', 'link', 'computed', 'shown number', 'shown date', 'shown text')`,
    ),
    check("own_field_name", sql`length(${t.name}) between 1 and 60`),
  ],
);
