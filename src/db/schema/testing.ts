import { sql } from "drizzle-orm";
import {
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
import type { TestStep } from "@/core/ship/testing/test-case";
import type { FailureCourse, StepResult } from "@/core/ship/testing/step-result";
import type { Verdict } from "@/core/ship/testing/verdict";
import type { MachineResult } from "@/core/ship/testing/machine-test";
import { instant } from "./columns";
import { storedFile } from "./file";
import { item } from "./item";
import { person } from "./people";
import { project } from "./project";
import { codeRepository } from "./ship";

const projectId = () =>
  text("project_id")
    .notNull()
    .references(() => project.id);

const personId = (column: string) =>
  text(column)
    .notNull()
    .references(() => person.id);

/** Test cases that belong together, and can be run together. */
export const testSuite = pgTable(
  "test_suite",
  {
    id: uuid("id").primaryKey(),
    projectId: projectId(),
    name: text("name").notNull(),
    putAwayAt: instant("put_away_at"),
  },
  (t) => [
    uniqueIndex("test_suite_named")
      .on(t.projectId, sql`lower(${t.name})`)
      .where(sql`${t.putAwayAt} is null`),
  ],
);

/** What is tried to see that something works. What it says stands in its versions. */
export const testCase = pgTable(
  "test_case",
  {
    id: uuid("id").primaryKey(),
    projectId: projectId(),
    /** Behind the T of its key. */
    number: integer("number").notNull(),
    suiteId: uuid("suite_id").references(() => testSuite.id),
    /** The part of the product that it is about, by its name. */
    part: text("part"),
    /** Its newest version. */
    version: integer("version").notNull(),
    createdBy: personId("created_by"),
    createdAt: instant("created_at").notNull(),
    putAwayAt: instant("put_away_at"),
  },
  (t) => [uniqueIndex("test_case_number").on(t.projectId, t.number)],
);

/** What a test case said at a time: runs keep the one that they were made by. */
export const testCaseVersion = pgTable(
  "test_case_version",
  {
    caseId: uuid("case_id")
      .notNull()
      .references(() => testCase.id),
    version: integer("version").notNull(),
    title: text("title").notNull(),
    /** What has to be so before. */
    before: text("before").notNull(),
    steps: jsonb("steps").$type<TestStep[]>().notNull(),
    by: personId("by_id"),
    at: instant("at").notNull(),
  },
  (t) => [primaryKey({ columns: [t.caseId, t.version] })],
);

/** That an item is tested by a case. */
export const itemTestCase = pgTable(
  "item_test_case",
  {
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    caseId: uuid("case_id")
      .notNull()
      .references(() => testCase.id),
    linkedBy: personId("linked_by"),
    linkedAt: instant("linked_at").notNull(),
  },
  (t) => [primaryKey({ columns: [t.itemId, t.caseId] }), index("item_test_case_case").on(t.caseId)],
);

/** Cases that a tester goes through, on an environment, with a build. */
export const testRun = pgTable(
  "test_run",
  {
    id: uuid("id").primaryKey(),
    projectId: projectId(),
    number: integer("number").notNull(),
    /** What it tests: an item, or a suite, or cases that somebody chose. */
    itemId: uuid("item_id").references(() => item.id),
    suiteId: uuid("suite_id").references(() => testSuite.id),
    /** As the project calls it; null where nobody said. */
    environment: text("environment"),
    repositoryId: uuid("repository_id").references(() => codeRepository.id),
    build: text("build"),
    commit: text("commit"),
    testerId: personId("tester_id"),
    startedAt: instant("started_at").notNull(),
    endedAt: instant("ended_at"),
    givenUpAt: instant("given_up_at"),
    /** Null while it is under way, and where not all of it was tried. */
    verdict: text("verdict").$type<Verdict>(),
  },
  (t) => [
    uniqueIndex("test_run_number").on(t.projectId, t.number),
    index("test_run_item").on(t.itemId, t.startedAt),
    check("test_run_verdict", sql`${t.verdict} in ('passed', 'failed', 'blocked')`),
  ],
);

const runId = () =>
  uuid("run_id")
    .notNull()
    .references(() => testRun.id);

/** A case of a run, as it was when the run began. */
export const testRunCase = pgTable(
  "test_run_case",
  {
    runId: runId(),
    caseId: uuid("case_id")
      .notNull()
      .references(() => testCase.id),
    version: integer("version").notNull(),
    position: integer("position").notNull(),
    /** What it is tried for: the item that hears of a failure. */
    itemId: uuid("item_id").references(() => item.id),
    verdict: text("verdict").$type<Verdict>(),
  },
  (t) => [
    primaryKey({ columns: [t.runId, t.caseId] }),
    index("test_run_case_case").on(t.caseId),
    index("test_run_case_item").on(t.itemId),
  ],
);

/** What a tester saw in a step. */
export const testStepResult = pgTable(
  "test_step_result",
  {
    runId: runId(),
    caseId: uuid("case_id").notNull(),
    stepId: text("step_id").notNull(),
    result: text("result").$type<StepResult>().notNull(),
    note: text("note").notNull().default(""),
    at: instant("at").notNull(),
    /** Of one that failed: what is to come of it. */
    course: text("course").$type<FailureCourse>(),
    /** Of one that failed: whose it is. */
    givenTo: text("given_to").references(() => person.id),
    /** Of one that failed: the item that came of it. */
    becameId: uuid("became_id").references(() => item.id),
  },
  (t) => [
    primaryKey({ columns: [t.runId, t.caseId, t.stepId] }),
    index("test_step_result_became").on(t.becameId),
    check("test_step_result_said", sql`${t.result} in ('passed', 'failed', 'blocked')`),
  ],
);

/** A picture of what a tester saw. */
export const testPicture = pgTable(
  "test_picture",
  {
    id: uuid("id").primaryKey(),
    runId: runId(),
    caseId: uuid("case_id").notNull(),
    stepId: text("step_id").notNull(),
    name: text("name").notNull(),
    mediaType: text("media_type").notNull(),
    sha256: text("sha256")
      .notNull()
      .references(() => storedFile.sha256),
    size: integer("size").notNull(),
    width: integer("width"),
    height: integer("height"),
    byId: personId("by_id"),
    at: instant("at").notNull(),
    removedAt: instant("removed_at"),
  },
  (t) => [index("test_picture_run").on(t.runId), index("test_picture_content").on(t.sha256)],
);

/** A test that a machine runs, as its results name it. */
export const machineTest = pgTable(
  "machine_test",
  {
    id: uuid("id").primaryKey(),
    repositoryId: uuid("repository_id")
      .notNull()
      .references(() => codeRepository.id),
    /** The group it stands in and its own name. */
    suite: text("suite").notNull(),
    name: text("name").notNull(),
    /** The case that it carries out; null where none fits. */
    caseId: uuid("case_id").references(() => testCase.id),
    firstAt: instant("first_at").notNull(),
  },
  (t) => [
    uniqueIndex("machine_test_named").on(t.repositoryId, t.suite, t.name),
    index("machine_test_case").on(t.caseId),
  ],
);

/** What came of a machine's test, on a commit. */
export const machineResult = pgTable(
  "machine_result",
  {
    testId: uuid("test_id")
      .notNull()
      .references(() => machineTest.id),
    commit: text("commit").notNull(),
    /** As the pipeline names it. */
    run: text("run").notNull(),
    at: instant("at").notNull(),
    result: text("result").$type<MachineResult>().notNull(),
    /** In milliseconds; null where nobody said. */
    took: integer("took"),
    message: text("message").notNull().default(""),
  },
  (t) => [
    primaryKey({ columns: [t.testId, t.commit, t.run] }),
    index("machine_result_commit").on(t.commit),
    index("machine_result_at").on(t.testId, t.at),
    check("machine_result_said", sql`${t.result} in ('passed', 'failed', 'skipped')`),
  ],
);
