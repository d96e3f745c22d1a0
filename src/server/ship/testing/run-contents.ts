import { and, eq, inArray, isNull } from "drizzle-orm";
import type { Reader } from "@/db/connection";
import { testCaseVersion, testPicture, testRunCase, testStepResult } from "@/db/schema";

/** Steps of some runs, in their order, with what was said of each. */
export interface RunStepRow {
  runId: string;
  caseId: string;
  number: number;
  step: (typeof testCaseVersion.$inferSelect)["steps"][number];
  said: typeof testStepResult.$inferSelect | null;
}

/** All cases of some runs with their versions, and what was said in them, in order. */
export async function contentsOfRuns(reader: Reader, runIds: readonly string[]) {
  if (runIds.length === 0) return { cases: [], steps: [] as RunStepRow[], pictures: [] };
  const [cases, said, pictures] = await Promise.all([
    reader
      .select({ runCase: testRunCase, version: testCaseVersion })
      .from(testRunCase)
      .innerJoin(
        testCaseVersion,
        and(
          eq(testCaseVersion.caseId, testRunCase.caseId),
          eq(testCaseVersion.version, testRunCase.version),
        ),
      )
      .where(inArray(testRunCase.runId, [...runIds]))
      .orderBy(testRunCase.runId, testRunCase.position),
    reader
      .select()
      .from(testStepResult)
      .where(inArray(testStepResult.runId, [...runIds])),
    reader
      .select()
      .from(testPicture)
      .where(and(inArray(testPicture.runId, [...runIds]), isNull(testPicture.removedAt)))
      .orderBy(testPicture.at),
  ]);
  const key = (one: { runId: string; caseId: string; stepId: string }) =>
    `${one.runId} ${one.caseId} ${one.stepId}`;
  const saidOf = new Map(said.map((one) => [key(one), one]));
  const steps = cases.flatMap(({ runCase: { runId, caseId }, version }) =>
    version.steps.map((step, i): RunStepRow => ({
      ...{ runId, caseId, number: i + 1, step },
      said: saidOf.get(key({ runId, caseId, stepId: step.id })) ?? null,
    })),
  );
  return { cases, steps, pictures };
}

export type RunContents = Awaited<ReturnType<typeof contentsOfRuns>>;
