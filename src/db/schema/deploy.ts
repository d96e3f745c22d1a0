import { sql } from "drizzle-orm";
import {
  boolean,
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
import { instant } from "./columns";
import { person } from "./people";
import { project } from "./project";
import { codeRepository } from "./ship";

/** Where builds of a project run, in the order in which a build reaches them. */
export const environment = pgTable(
  "environment",
  {
    id: uuid("id").primaryKey(),
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    name: text("name").notNull(),
    position: integer("position").notNull(),
    /** Where it can be looked at, with a place for an item's key; empty where nowhere. */
    address: text("address").notNull().default(""),
    /** Whether it is the one that is used in earnest. */
    live: boolean("live").notNull().default(false),
    retiredAt: instant("retired_at"),
  },
  (t) => [
    uniqueIndex("environment_named")
      .on(t.projectId, sql`lower(${t.name})`)
      .where(sql`${t.retiredAt} is null`),
  ],
);

/** Days on which nothing is to be deployed there, the last one with them. */
export const freezeWindow = pgTable(
  "freeze_window",
  {
    id: uuid("id").primaryKey(),
    environmentId: uuid("environment_id")
      .notNull()
      .references(() => environment.id),
    from: date("first_day").notNull(),
    until: date("last_day").notNull(),
    why: text("why").notNull().default(""),
    setBy: text("set_by")
      .notNull()
      .references(() => person.id),
    setAt: instant("set_at").notNull(),
    removedAt: instant("removed_at"),
  },
  (t) => [
    index("freeze_window_environment").on(t.environmentId),
    check("freeze_window_order", sql`${t.from} <= ${t.until}`),
  ],
);

const repositoryId = () =>
  uuid("repository_id")
    .notNull()
    .references(() => codeRepository.id);

/** Checks of a commit, as a pipeline ran them. */
export const pipelineRun = pgTable(
  "pipeline_run",
  {
    repositoryId: repositoryId(),
    /** As the pipeline names it. */
    name: text("name").notNull(),
    commit: text("commit").notNull(),
    branch: text("branch"),
    startedAt: instant("started_at"),
    endedAt: instant("ended_at"),
    /** Null while it runs. */
    passed: boolean("passed"),
    url: text("url"),
  },
  (t) => [
    primaryKey({ columns: [t.repositoryId, t.name] }),
    index("pipeline_run_branch").on(t.repositoryId, t.branch, t.endedAt),
  ],
);

/** What was made of a commit and can be deployed. */
export const codeBuild = pgTable(
  "code_build",
  {
    repositoryId: repositoryId(),
    /** As the pipeline names it. */
    name: text("name").notNull(),
    commit: text("commit").notNull(),
    at: instant("at").notNull(),
    url: text("url"),
  },
  (t) => [primaryKey({ columns: [t.repositoryId, t.name] })],
);

/** That a build was put on an environment, or could not be. */
export const deployment = pgTable(
  "deployment",
  {
    id: uuid("id").primaryKey(),
    repositoryId: repositoryId(),
    /** One of the parts that are deployed by themselves. */
    part: text("part").notNull(),
    /** As the pipeline names it, in small letters. */
    environment: text("environment").notNull(),
    /** As the pipeline names it. */
    called: text("called").notNull(),
    outcome: text("outcome", { enum: ["deployed", "rolled back", "failed", "removed"] }).notNull(),
    build: text("build"),
    /** Null where neither the event nor its build said. */
    commit: text("commit"),
    at: instant("at").notNull(),
    byName: text("by_name"),
    byMail: text("by_mail"),
    url: text("url"),
    /** Whether all that it contains is known: some of it may be told of later. */
    complete: boolean("complete").notNull(),
  },
  (t) => [
    index("deployment_there").on(t.repositoryId, t.environment, t.part, t.at),
    check(
      "deployment_outcome",
      sql`${t.outcome} in ('deployed', 'rolled back', 'failed', 'removed')`,
    ),
  ],
);

/** Which commits an environment has, and had: what was deployed there, and all that came before it. */
export const commitStanding = pgTable(
  "commit_standing",
  {
    repositoryId: repositoryId(),
    environment: text("environment").notNull(),
    part: text("part").notNull(),
    hash: text("hash").notNull(),
    /** Since when it is there without a break. */
    since: instant("since").notNull(),
    firstAt: instant("first_at").notNull(),
    /** When an older build took its place. */
    goneAt: instant("gone_at"),
  },
  (t) => [
    primaryKey({ columns: [t.repositoryId, t.environment, t.part, t.hash] }),
    index("commit_standing_commit").on(t.repositoryId, t.hash),
  ],
);

/** What somebody asked the pipeline to do: nothing changes until an event says that it did. */
export const deploymentRequest = pgTable(
  "deployment_request",
  {
    id: uuid("id").primaryKey(),
    repositoryId: repositoryId(),
    environmentId: uuid("environment_id")
      .notNull()
      .references(() => environment.id),
    kind: text("kind", { enum: ["deploy", "roll back"] }).notNull(),
    build: text("build").notNull(),
    askedBy: text("asked_by")
      .notNull()
      .references(() => person.id),
    askedAt: instant("asked_at").notNull(),
    /** When an event answered it. */
    answeredAt: instant("answered_at"),
    /** Why it was not taken; null where it was. */
    refused: text("refused"),
  },
  (t) => [
    index("deployment_request_environment").on(t.environmentId, t.askedAt),
    check("deployment_request_kind", sql`${t.kind} in ('deploy', 'roll back')`),
  ],
);
