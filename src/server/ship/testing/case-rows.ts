import { and, desc, eq, inArray, isNotNull, isNull, sql } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import type { Instant } from "@/core/calendar/instant";
import { grouped } from "@/core/item/grouped";
import type { LastTried } from "@/core/ship/testing/case-standing";
import type { Reader } from "@/db/connection";
import {
  itemTestCase,
  person,
  testCase,
  testCaseVersion,
  testRun,
  testRunCase,
  testSuite,
} from "@/db/schema";
import { deployedOfItems } from "../presence";

/** A case as it is now. */
export type CaseNow = typeof testCase.$inferSelect &
  Pick<typeof testCaseVersion.$inferSelect, "title" | "before" | "steps">;

const columns = {
  id: testCase.id,
  projectId: testCase.projectId,
  number: testCase.number,
  suiteId: testCase.suiteId,
  part: testCase.part,
  version: testCase.version,
  createdBy: testCase.createdBy,
  createdAt: testCase.createdAt,
  putAwayAt: testCase.putAwayAt,
  title: testCaseVersion.title,
  before: testCaseVersion.before,
  steps: testCaseVersion.steps,
};

const casesNow = (reader: Reader) =>
  reader
    .select(columns)
    .from(testCase)
    .innerJoin(
      testCaseVersion,
      and(eq(testCaseVersion.caseId, testCase.id), eq(testCaseVersion.version, testCase.version)),
    );

/** The cases of a project in the order of their numbers, those that were put away too. */
export const casesOfProject = (reader: Reader, projectId: string): Promise<CaseNow[]> =>
  casesNow(reader).where(eq(testCase.projectId, projectId)).orderBy(testCase.number);

export async function casesById(reader: Reader, ids: readonly string[]): Promise<CaseNow[]> {
  if (ids.length === 0) return [];
  return casesNow(reader)
    .where(inArray(testCase.id, [...new Set(ids)]))
    .orderBy(testCase.number);
}

/** The cases that test some items, by the items' ids; what was put away tests nothing any more. */
export async function casesOfItems(
  reader: Reader,
  itemIds: readonly string[],
): Promise<Map<string, CaseNow[]>> {
  if (itemIds.length === 0) return new Map();
  const rows = await reader
    .select({ itemId: itemTestCase.itemId, ...columns })
    .from(itemTestCase)
    .innerJoin(testCase, eq(testCase.id, itemTestCase.caseId))
    .innerJoin(
      testCaseVersion,
      and(eq(testCaseVersion.caseId, testCase.id), eq(testCaseVersion.version, testCase.version)),
    )
    .where(
      and(
        sql`${itemTestCase.itemId} = any(${sql.param([...itemIds])}::uuid[])`,
        isNull(testCase.putAwayAt),
      ),
    )
    .orderBy(testCase.number);
  return grouped(rows, ({ itemId }) => itemId);
}

/** The items that some cases test, by the cases' ids; whoever reads them may not see them all. */
export async function itemsOfCases(
  reader: Reader,
  caseIds: readonly string[],
): Promise<Map<string, string[]>> {
  if (caseIds.length === 0) return new Map();
  const rows = await reader
    .select({ itemId: itemTestCase.itemId, caseId: itemTestCase.caseId })
    .from(itemTestCase)
    .where(inArray(itemTestCase.caseId, [...caseIds]))
    .orderBy(itemTestCase.linkedAt);
  return new Map(
    [...grouped(rows, ({ caseId }) => caseId)].map(([id, all]) => [
      id,
      all.map(({ itemId }) => itemId),
    ]),
  );
}

/** A time that a case was tried, in a run that ended. */
export interface Tried extends LastTried {
  caseId: string;
  itemId: string | null;
  run: number;
  build: string | null;
  environment: string | null;
  commit: string | null;
  repositoryId: string | null;
  by: string;
}

const tester = alias(person, "tester");

/** The times that some cases were tried, the latest first. */
export async function timesTried(reader: Reader, caseIds: readonly string[]): Promise<Tried[]> {
  if (caseIds.length === 0) return [];
  const rows = await reader
    .select({
      caseId: testRunCase.caseId,
      itemId: testRunCase.itemId,
      verdict: testRunCase.verdict,
      version: testRunCase.version,
      startedAt: testRun.startedAt,
      at: testRun.endedAt,
      run: testRun.number,
      build: testRun.build,
      environment: testRun.environment,
      commit: testRun.commit,
      repositoryId: testRun.repositoryId,
      by: tester.name,
    })
    .from(testRunCase)
    .innerJoin(testRun, eq(testRun.id, testRunCase.runId))
    .innerJoin(tester, eq(tester.id, testRun.testerId))
    .where(
      and(
        sql`${testRunCase.caseId} = any(${sql.param([...caseIds])}::uuid[])`,
        isNotNull(testRun.endedAt),
      ),
    )
    .orderBy(desc(testRun.endedAt), desc(testRun.number));
  return rows.map(({ at, ...row }) => ({ ...row, at: at! }));
}

/**
 * The last time that a case was tried for an item, or for nothing in particular: then it was tried for
 * all that it tests.
 */
export const lastFor = (tried: readonly Tried[], caseId: string, itemId: string): Tried | null =>
  tried.find((one) => one.caseId === caseId && (one.itemId === itemId || one.itemId === null)) ??
  null;

/** The suites of a project: those that are there, and those that were put away. */
export async function suitesOf(
  reader: Reader,
  projectId: string,
): Promise<Record<"there" | "away", { id: string; name: string }[]>> {
  const rows = await reader
    .select({ id: testSuite.id, name: testSuite.name, putAwayAt: testSuite.putAwayAt })
    .from(testSuite)
    .where(eq(testSuite.projectId, projectId))
    .orderBy(testSuite.name);
  const named = (away: boolean) =>
    rows
      .filter(({ putAwayAt }) => (putAwayAt !== null) === away)
      .map(({ id, name }) => ({ id, name }));
  return { there: named(false), away: named(true) };
}

/** What of some items is deployed anywhere was merged then last, by the items' ids. */
export async function changedAtOf(
  reader: Reader,
  itemIds: readonly string[],
): Promise<Map<string, Instant>> {
  const deployed = await deployedOfItems(reader, itemIds);
  return new Map(
    [...deployed].flatMap(([itemId, there]) =>
      there.length > 0
        ? [[itemId, Math.max(...there.map(({ mergedAt }) => mergedAt))] as const]
        : [],
    ),
  );
}
