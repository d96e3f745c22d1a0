import { and, desc, eq, inArray, isNull, type SQL } from "drizzle-orm";
import { listWords } from "@/core/formats/list-words";
import type { RunNamed } from "@/core/ship/testing/testing-view";
import type { Reader } from "@/db/connection";
import { person, testRun } from "@/db/schema";
import { contentsOfRuns, type RunContents } from "./run-contents";

/** A run with who tests. */
export type TestedRun = typeof testRun.$inferSelect & { tester: string };

/** Some runs that were not given up, the latest first. */
export async function runsWhere(
  reader: Reader,
  which: SQL | undefined,
  most = 200,
): Promise<TestedRun[]> {
  const rows = await reader
    .select({ run: testRun, tester: person.name })
    .from(testRun)
    .innerJoin(person, eq(person.id, testRun.testerId))
    .where(and(which, isNull(testRun.givenUpAt)))
    .orderBy(desc(testRun.startedAt), desc(testRun.number))
    .limit(most);
  return rows.map(({ run, tester }) => ({ ...run, tester }));
}

/** The runs of some items, the latest first, with what was said in them. */
export async function runsOfItems(
  reader: Reader,
  itemIds: readonly string[],
): Promise<{ run: TestedRun; named: RunNamed }[]> {
  if (itemIds.length === 0) return [];
  const runs = await runsWhere(reader, inArray(testRun.itemId, [...itemIds]), 500);
  const contents = await contentsOfRuns(
    reader,
    runs.map(({ id }) => id),
  );
  return runs.map((run) => ({ run, named: namedRun(run, contents) }));
}

/** A run as others speak of it. */
export function namedRun(run: TestedRun, { steps, cases }: RunContents): RunNamed {
  const own = steps.filter(({ runId }) => runId === run.id);
  const several = cases.filter(({ runCase }) => runCase.runId === run.id).length > 1;
  const failed = own.filter(({ said }) => said?.result === "failed").map(({ number }) => number);
  const { number, environment, build, startedAt, endedAt, verdict } = run;
  return {
    ...{ number, environment, build, startedAt, endedAt, verdict },
    tester: { id: run.testerId, name: run.tester },
    tried: own.filter(({ said }) => said !== null).length,
    of: own.length,
    failed: failedWords(failed, several),
  };
}

/** "step 4", "steps 2 and 4"; in several cases the numbers of their steps say nothing. */
function failedWords(failed: readonly number[], several: boolean): string {
  if (failed.length === 0) return "";
  if (several) return failed.length === 1 ? "1 step" : `${failed.length} steps`;
  return `step${failed.length === 1 ? "" : "s"} ${listWords(failed.map(String), "and")}`;
}
