import { sql } from "drizzle-orm";
import { check, index, integer, jsonb, pgTable, primaryKey, text, uuid } from "drizzle-orm/pg-core";
import type { BulkDoing } from "@/core/item/bulk/act";
import type { ItemOutcome, JobState } from "@/core/item/bulk/job";
import { instant } from "./columns";
import { item } from "./item";
import { person } from "./people";
import { project } from "./project";

/** Something that is done to several items, some at a time; it goes on whoever looks. */
export const bulkJob = pgTable(
  "bulk_job",
  {
    /** Made by whoever starts it, so that starting it twice is once. */
    id: uuid("id").primaryKey(),
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    personId: text("person_id")
      .notNull()
      .references(() => person.id),
    doing: jsonb("doing").$type<BulkDoing>().notNull(),
    /** The job that it takes back. */
    undoOf: uuid("undo_of"),
    state: text("state").$type<JobState>().notNull(),
    madeAt: instant("made_at").notNull(),
    endedAt: instant("ended_at"),
  },
  (t) => [
    index("bulk_job_person").on(t.personId, t.madeAt),
    index("bulk_job_open")
      .on(t.madeAt)
      .where(sql`${t.state} in ('waiting', 'running')`),
    index("bulk_job_undo").on(t.undoOf),
    check("bulk_job_state", sql`${t.state} in ('waiting', 'running', 'done', 'cancelled')`),
  ],
);

/** One item of a job, and how it went with it. */
export const bulkItem = pgTable(
  "bulk_item",
  {
    jobId: uuid("job_id")
      .notNull()
      .references(() => bulkJob.id, { onDelete: "cascade" }),
    position: integer("position").notNull(),
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    /** The key of its command; also what it is undone by. */
    commandId: uuid("command_id").notNull(),
    outcome: text("outcome").$type<ItemOutcome>(),
    /** Why it was left out. */
    sentence: text("sentence"),
  },
  (t) => [
    primaryKey({ columns: [t.jobId, t.position] }),
    check("bulk_item_outcome", sql`${t.outcome} in ('done', 'same', 'refused')`),
  ],
);
