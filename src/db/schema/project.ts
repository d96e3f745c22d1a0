import type { DatedSettingName } from "@/core/calendar/dated-setting";
import { FIRST_SCALES, type SizeScale } from "@/core/plan/size-scale";
import { FIRST_LEVEL_NAMES } from "@/core/item/item-type";
import type { FailureKind } from "@/core/ship/delivery-figures";
import { FIRST_BRANCH_PATTERN } from "@/core/ship/branch-name";
import { FIRST_CLOSING_WORDS } from "@/core/ship/closing-words";
import { instant } from "./columns";
import { sql } from "drizzle-orm";
import {
  boolean,
  check,
  doublePrecision,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  uuid,
} from "drizzle-orm/pg-core";

export const project = pgTable(
  "project",
  {
    id: text("id").primaryKey(),
    /** Begins the keys of its items, e.g. TIX. */
    key: text("key").notNull().unique(),
    name: text("name").notNull(),
    visibility: text("visibility", { enum: ["everyone", "members"] }).notNull(),
    /** IANA name of the zone in which days are counted. */
    zone: text("zone").notNull(),
    nextItemNumber: integer("next_item_number").notNull().default(1),
    expectationDays: integer("expectation_days").notNull(),
    expectationShare: doublePrecision("expectation_share").notNull(),
    /** What an item without a size counts for, where limits add up sizes. */
    defaultSize: doublePrecision("default_size").notNull().default(1),
    /** Whether it plans in sprints; those that it has stay as they are where it does not. */
    usesSprints: boolean("uses_sprints").notNull().default(true),
    /** How long its sprints usually are, in days. */
    sprintDays: integer("sprint_days").notNull().default(14),
    /** Whether every new item goes into the sprint that runs. */
    newIntoSprint: boolean("new_into_sprint").notNull().default(false),
    /** The sizes that its items are given. */
    sizeScale: jsonb("size_scale").$type<SizeScale>().notNull().default(FIRST_SCALES.points),
    /** What the project calls the levels of its items, from the lowest. */
    levelNames: jsonb("level_names")
      .$type<string[]>()
      .notNull()
      .default([...FIRST_LEVEL_NAMES]),
    /** How branches for its items are named. */
    branchPattern: text("branch_pattern").notNull().default(FIRST_BRANCH_PATTERN),
    /** The words after which a commit on main says that items are done. */
    closingWords: jsonb("closing_words")
      .$type<string[]>()
      .notNull()
      .default([...FIRST_CLOSING_WORDS]),
    /** After how many days an open branch is old. */
    branchDays: integer("branch_days").notNull().default(5),
    /** What names a deployment as a failure. */
    failures: jsonb("failures")
      .$type<FailureKind[]>()
      .notNull()
      .default(["rolled back", "withdrawn", "hotfix"]),
    /** When it was put away, and by whom: it can be read since, and nothing of it changes. */
    putAwayAt: instant("put_away_at"),
    putAwayBy: text("put_away_by"),
    /** Whether the notes of its releases, and its known problems, may be read without an account. */
    newsPublic: boolean("news_public").notNull().default(false),
  },
  (t) => [
    check("project_put_away", sql`(${t.putAwayAt} is null) = (${t.putAwayBy} is null)`),
    check("project_key", sql`${t.key} ~ '^[A-Z][A-Z0-9]{1,9}$'`),
    check("project_default_size", sql`${t.defaultSize} > 0`),
    check("project_sprint_days", sql`${t.sprintDays} between 1 and 98`),
    check("project_branch_days", sql`${t.branchDays} between 1 and 365`),
    check("project_visibility", sql`${t.visibility} in ('everyone', 'members')`),
    check(
      "project_expectation",
      sql`${t.expectationDays} > 0 and ${t.expectationShare} > 0 and ${t.expectationShare} < 1`,
    ),
  ],
);

/**
 * What a setting of a project was from when on, so that the past is counted by what held then. The
 * last of them is what the project's row says.
 */
export const datedSetting = pgTable(
  "dated_setting",
  {
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    setting: text("setting").$type<DatedSettingName>().notNull(),
    validFrom: instant("valid_from").notNull(),
    value: jsonb("value").notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.projectId, t.setting, t.validFrom] }),
    check(
      "dated_setting_name",
      sql`${t.setting} in ('zone', 'expectation', 'calendar', 'promises', 'sizes')`,
    ),
  ],
);

/** Several projects that are looked at together, under a name. */
export const projectGroup = pgTable("project_group", {
  id: uuid("id").primaryKey(),
  name: text("name").notNull(),
  madeBy: text("made_by").notNull(),
  madeAt: instant("made_at").notNull(),
  putAwayAt: instant("put_away_at"),
});

/** The projects of a group. */
export const projectGroupProject = pgTable(
  "project_group_project",
  {
    groupId: uuid("group_id")
      .notNull()
      .references(() => projectGroup.id),
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
  },
  (t) => [primaryKey({ columns: [t.groupId, t.projectId] })],
);
