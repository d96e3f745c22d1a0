import type { BacklogLook } from "@/core/plan/backlog-look";
import type { Timebox, TimeboxOwnerKind } from "@/core/plan/membership";
import { sql } from "drizzle-orm";
import { boolean, check, date, index, jsonb, pgTable, primaryKey, text } from "drizzle-orm/pg-core";
import { instant } from "./columns";
import { person } from "./people";
import { project } from "./project";

/**
 * A time box with a goal, of a project or a team. Both days belong to it. It is over when its last
 * day has passed, and ended when somebody has said what becomes of what is open in it.
 */
export const sprint = pgTable(
  "sprint",
  {
    id: text("id").primaryKey(),
    ownerKind: text("owner_kind").$type<TimeboxOwnerKind>().notNull(),
    ownerId: text("owner_id").notNull(),
    /** IANA name of the zone in which its days begin and end. */
    zone: text("zone").notNull(),
    name: text("name").notNull(),
    goal: text("goal").notNull(),
    startsOn: date("starts_on", { mode: "string" }).notNull(),
    endsOn: date("ends_on", { mode: "string" }).notNull(),
    /** When somebody started it; else it runs from its first day on. */
    startedAt: instant("started_at"),
    startedBy: text("started_by").references(() => person.id),
    /** When somebody ended it, and what they said of it. */
    endedAt: instant("ended_at"),
    endedBy: text("ended_by").references(() => person.id),
    goalReached: boolean("goal_reached"),
    endWords: text("end_words"),
    removedAt: instant("removed_at"),
  },
  (t) => [
    index("sprint_owner_days").on(t.ownerKind, t.ownerId, t.startsOn),
    check("sprint_length", sql`${t.endsOn} >= ${t.startsOn} and ${t.endsOn} < ${t.startsOn} + 98`),
    check("sprint_ended", sql`(${t.endedAt} is null) = (${t.endWords} is null)`),
    check("sprint_owner", sql`${t.ownerKind} in ('project', 'team')`),
  ],
);

/** The projects whose items may be in a sprint or a release. */
export const timeboxProject = pgTable(
  "box_project",
  {
    box: text("box").$type<Timebox>().notNull(),
    boxId: text("box_id").notNull(),
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
  },
  (t) => [
    primaryKey({ columns: [t.box, t.boxId, t.projectId] }),
    index("box_project_project").on(t.projectId),
    check("box_project_box", sql`${t.box} in ('sprint', 'release')`),
  ],
);

/** A named set of items that are delivered together. */
export const release = pgTable(
  "release",
  {
    id: text("id").primaryKey(),
    ownerKind: text("owner_kind").$type<TimeboxOwnerKind>().notNull(),
    ownerId: text("owner_id").notNull(),
    /** IANA name of the zone in which its day begins and ends. */
    zone: text("zone").notNull(),
    name: text("name").notNull(),
    /** From which day on it is worked towards; null: from when something is in it. */
    startsOn: date("starts_on", { mode: "string" }),
    dueOn: date("due_on", { mode: "string" }),
    releasedAt: instant("released_at"),
    /** Its notes as they were when it went out, in Markdown. */
    outNotes: text("out_notes"),
    /** When it was taken back after it was out, and why; the day that it was out stays. */
    withdrawnAt: instant("withdrawn_at"),
    withdrawnWhy: text("withdrawn_why"),
    removedAt: instant("removed_at"),
  },
  (t) => [
    index("release_owner_of").on(t.ownerKind, t.ownerId),
    check("release_owner", sql`${t.ownerKind} in ('project', 'team')`),
    check("release_withdrawn", sql`(${t.withdrawnAt} is null) = (${t.withdrawnWhy} is null)`),
  ],
);

/** That the day of a release was set, moved or taken away, and why. */
export const releaseDate = pgTable(
  "release_date",
  {
    releaseId: text("release_id")
      .notNull()
      .references(() => release.id),
    at: instant("at").notNull(),
    byId: text("by_id")
      .notNull()
      .references(() => person.id),
    from: date("from_day", { mode: "string" }),
    to: date("to_day", { mode: "string" }),
    why: text("why").notNull(),
  },
  (t) => [primaryKey({ columns: [t.releaseId, t.at] })],
);

/** How a person looks at the backlog of a project; where they never chose, there is none. */
export const backlogLook = pgTable(
  "backlog_look",
  {
    personId: text("person_id")
      .notNull()
      .references(() => person.id),
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    look: jsonb("look").$type<BacklogLook>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.personId, t.projectId] })],
);
