import { desc, eq, sql } from "drizzle-orm";
import type { Instant } from "@/core/calendar/instant";
import { grouped } from "@/core/item/grouped";
import { changesOfMind } from "@/core/ship/testing/machine-test";
import type { MachineFound } from "@/core/ship/testing/testing-view";
import type { Reader } from "@/db/connection";
import { machineResult, machineTest } from "@/db/schema";
import type { SQL } from "drizzle-orm";

/** Older results say nothing of whether a test is steady. */
const LOOKED_BACK = 200;

type ResultRow = typeof machineResult.$inferSelect;

/** A test of a machine with what came of it, the latest first. */
export interface MachineRow {
  id: string;
  repositoryId: string;
  caseId: string | null;
  suite: string;
  name: string;
  results: ResultRow[];
}

/** Some of the machines' tests, each with its last results. */
export async function machinesWhere(reader: Reader, which: SQL | undefined): Promise<MachineRow[]> {
  const tests = await reader.select().from(machineTest).where(which).orderBy(machineTest.name);
  if (tests.length === 0) return [];
  const lately = reader
    .select()
    .from(machineResult)
    .where(eq(machineResult.testId, machineTest.id))
    .orderBy(desc(machineResult.at))
    .limit(LOOKED_BACK)
    .as("lately");
  const results = await reader
    .select(lately._.selectedFields)
    .from(machineTest)
    .innerJoinLateral(lately, sql`true`)
    .where(which)
    .orderBy(desc(lately.at));
  const ofTest = grouped(results, ({ testId }) => testId);
  return tests.map(({ id, repositoryId, caseId, suite, name }) => ({
    ...{ id, repositoryId, caseId, suite, name, results: ofTest.get(id) ?? [] },
  }));
}

/** The machines' tests that carry out some cases. */
export async function machinesOfCases(
  reader: Reader,
  caseIds: readonly string[],
): Promise<Map<string, MachineRow[]>> {
  if (caseIds.length === 0) return new Map();
  const ids = sql.param([...caseIds]);
  const rows = await machinesWhere(reader, sql`${machineTest.caseId} = any(${ids}::uuid[])`);
  return grouped(rows, ({ caseId }) => caseId!);
}

/** All of a repository. */
export const machinesOfRepository = (reader: Reader, repositoryId: string) =>
  machinesWhere(reader, eq(machineTest.repositoryId, repositoryId));

/** A machine's test as people read it. */
export function machineFound({ id, suite, name, results }: MachineRow): MachineFound {
  const [last] = results;
  return {
    ...{ testId: id, suite, name },
    last: last
      ? { result: last.result, at: last.at, commit: last.commit, message: last.message }
      : null,
    changedMind: changesOfMind(results),
  };
}

/**
 * When a test failed on some commits first, and passed on any after that; null where it never failed
 * there.
 * @param commits of the item's own branches
 */
export function seenToFail(
  { results }: MachineRow,
  commits: ReadonlySet<string>,
): { failedAt: Instant; passedAt: Instant | null } | null {
  const inOrder = results.toReversed();
  const failed = inOrder.find(({ commit, result }) => result === "failed" && commits.has(commit));
  if (!failed) return null;
  const passed = inOrder.find(({ at, result }) => at > failed.at && result === "passed");
  return { failedAt: failed.at, passedAt: passed?.at ?? null };
}
