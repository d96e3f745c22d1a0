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
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import type { LimitCounting } from "@/core/board/limit-counting";
import type { LimitedField, LimitOwnerKind } from "@/core/board/limited";
import type { ColumnPart } from "@/core/board/column";
import type { Condition } from "@/core/condition/condition";
import type { DesignedColumns } from "@/core/board/columns-by";
import { instant, rank } from "./columns";
import { item } from "./item";
import { person } from "./people";
import { project } from "./project";
import { state } from "./workflow";

export const board = pgTable("board", {
  id: text("id").primaryKey(),
  projectId: text("project_id")
    .notNull()
    .references(() => project.id),
  name: text("name").notNull(),
  position: integer("position").notNull().default(0),
  /** Whose values its columns are: states, another field, or lists that mean nothing. */
  columnsBy: text("columns_by").$type<DesignedColumns>().notNull().default("state"),
  /** Which items it shows; null: all of the project. */
  scope: jsonb("scope").$type<Condition>(),
  version: integer("version").notNull().default(1),
});

export const boardColumn = pgTable(
  "board_column",
  {
    id: text("id").primaryKey(),
    boardId: text("board_id")
      .notNull()
      .references(() => board.id),
    stage: text("stage").notNull(),
    name: text("name").notNull(),
    part: text("part").$type<ColumnPart>().notNull(),
    position: integer("position").notNull(),
  },
  (t) => [
    index("board_column_board").on(t.boardId),
    check("board_column_part", sql`${t.part} in ('waiting', 'working', 'finished')`),
  ],
);

/**
 * Every limit on how many items may be somewhere, and those that were: one that is changed or ends
 * leaves what it was. The row in force is also the lock that movers into or out of its owner take,
 * so that a count cannot be true for two of them at once.
 */
export const wipLimit = pgTable(
  "wip_limit",
  {
    id: uuid("id").primaryKey(),
    /** Null for a person's, which holds over all projects. */
    projectId: text("project_id").references(() => project.id),
    ownerKind: text("owner_kind").$type<LimitOwnerKind>().notNull(),
    ownerId: text("owner_id").notNull(),
    /** Only items with this value count: a lane, a cell, a class of service. */
    field: text("field").$type<LimitedField>(),
    value: text("value"),
    min: integer("min"),
    max: integer("max"),
    minFirm: boolean("min_firm").notNull(),
    maxFirm: boolean("max_firm").notNull(),
    unit: text("unit").$type<LimitCounting["unit"]>().notNull().default("items"),
    /** Null: the usual one of where it is. */
    level: integer("level"),
    fixedDatePasses: boolean("fixed_date_passes").notNull().default(false),
    workedOnly: boolean("worked_only").notNull().default(false),
    /** Who said so; null for what came with the product or from before that was kept. */
    byId: text("by_id").references(() => person.id),
    validFrom: instant("valid_from").notNull(),
    /** Null while it is in force. */
    validTo: instant("valid_to"),
  },
  (t) => [
    uniqueIndex("wip_limit_in_force")
      .on(t.ownerKind, t.ownerId, sql`coalesce(${t.field}, '')`, sql`coalesce(${t.value}, '')`)
      .where(sql`${t.validTo} is null`),
    check("wip_limit_owner", sql`${t.ownerKind} in ('state', 'column', 'board', 'person')`),
    check("wip_limit_of", sql`(${t.field} is null) = (${t.value} is null)`),
    check("wip_limit_unit", sql`${t.unit} in ('items', 'size')`),
    check(
      "wip_limit_bounds",
      sql`(${t.min} is null or ${t.min} >= 0) and (${t.max} is null or ${t.max} >= coalesce(${t.min}, 0))`,
    ),
  ],
);

export const columnState = pgTable(
  "column_state",
  {
    boardId: text("board_id")
      .notNull()
      .references(() => board.id),
    columnId: text("column_id")
      .notNull()
      .references(() => boardColumn.id),
    stateId: text("state_id")
      .notNull()
      .references(() => state.id),
  },
  (t) => [
    primaryKey({ columns: [t.boardId, t.stateId] }),
    index("column_state_column").on(t.columnId),
  ],
);

/** Where an item stands on a free board. */
export const boardPlace = pgTable(
  "board_place",
  {
    boardId: text("board_id")
      .notNull()
      .references(() => board.id, { onDelete: "cascade" }),
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    columnId: text("column_id")
      .notNull()
      .references(() => boardColumn.id, { onDelete: "cascade" }),
    rank: rank("rank").notNull(),
  },
  (t) => [primaryKey({ columns: [t.boardId, t.itemId] })],
);
