import { DAY, MINUTE, type Instant } from "@/core/calendar/instant";
import { seededRandom } from "@/core/forecast/random";
import { caseOfMachine } from "@/core/ship/testing/machine-test";
import type { Workflow } from "@/core/workflow/workflow";
import type { Transaction } from "@/db/connection";
import * as table from "@/db/schema";
import type { DemoCode } from "../code/with-code";
import type { DemoItem } from "../history";
import { uuidSource } from "../ids";
import { inChunks } from "../in-chunks";
import { PEOPLE } from "../people";
import type { DemoProject } from "../projects";
import { MACHINE_TESTS, UNSTEADY } from "../words/test-cases";
import { makeCases, type MadeCase } from "./made-cases";
import { isOfTest, runsOfItems, withTestRuns, type DemoTestRun } from "./runs-of-items";

/** What the crew of a project tests, and tried. */
export interface DemoTests {
  cases: MadeCase[];
  runs: DemoTestRun[];
}

/** The cases and runs of a project, and the histories of its items with what they came to. */
export function withTests(
  project: DemoProject,
  items: readonly DemoItem[],
  { workflow, code, now }: { workflow: Workflow; code: DemoCode; now: Instant },
): { items: DemoItem[]; tests: DemoTests } {
  const random = seededRandom(project.process.seed + 9500);
  const nextId = uuidSource(random);
  const cases = makeCases(project, items, { nextId, now });
  const ofItem = new Map<string, MadeCase[]>();
  for (const made of cases)
    for (const id of made.itemIds) ofItem.set(id, [...(ofItem.get(id) ?? []), made]);
  // Of what waits to be tested some have no case yet.
  for (const { snapshot } of items)
    if (isOfTest(workflow, snapshot.stateId) && snapshot.number % 4 === 0) {
      for (const made of ofItem.get(snapshot.id) ?? [])
        made.itemIds = made.itemIds.filter((id) => id !== snapshot.id);
      ofItem.delete(snapshot.id);
    }
  const runs = runsOfItems(items, {
    ...{ workflow, delivery: code.delivery, random, now },
    casesOf: ({ snapshot }) => ofItem.get(snapshot.id) ?? [],
  });
  const testerName = (id: string) => PEOPLE.find((one) => one.id === id)?.name ?? id;
  return { items: withTestRuns(items, runs, { testerName, nextId }), tests: { cases, runs } };
}

/** Stores what a crew tests, and what came of it. */
export async function loadTests(
  tx: Transaction,
  project: DemoProject,
  { cases, runs }: DemoTests,
  { code, repositoryId, now }: { code: DemoCode; repositoryId: string; now: Instant },
): Promise<void> {
  const projectId = project.key.toLowerCase();
  const nextId = uuidSource(seededRandom(project.process.seed + 9600));
  const suites = new Map<string, string>();
  for (const { suite } of cases) if (suite && !suites.has(suite)) suites.set(suite, nextId());
  if (suites.size > 0)
    await tx
      .insert(table.testSuite)
      .values([...suites].map(([name, id]) => ({ id, projectId, name })));
  await inChunks(
    cases.map(({ id, number, suite, part, createdBy, createdAt }) => ({
      ...{ id, projectId, number, part, version: 1, createdBy, createdAt },
      suiteId: suite === null ? null : suites.get(suite)!,
    })),
    (c) => tx.insert(table.testCase).values(c),
  );
  await inChunks(
    cases.map(({ id, title, before, steps, createdBy, createdAt }) => ({
      ...{ caseId: id, version: 1, title, before, steps, by: createdBy, at: createdAt },
    })),
    (c) => tx.insert(table.testCaseVersion).values(c),
  );
  await inChunks(
    cases.flatMap(({ id, itemIds, createdBy, createdAt }) =>
      itemIds.map((itemId) => ({ itemId, caseId: id, linkedBy: createdBy, linkedAt: createdAt })),
    ),
    (c) => tx.insert(table.itemTestCase).values(c),
  );
  await loadRuns(tx, projectId, runs, { repositoryId, nextId });
  await loadMachines(tx, project, cases, { code, repositoryId, nextId, now });
}

async function loadRuns(
  tx: Transaction,
  projectId: string,
  runs: readonly DemoTestRun[],
  { repositoryId, nextId }: { repositoryId: string; nextId: () => string },
): Promise<void> {
  const rows = runs.map((run) => ({ run, id: nextId() }));
  await inChunks(
    rows.map(({ run: { number, item, testerId, startedAt, endedAt, verdict, build }, id }) => ({
      ...{ id, projectId, number, itemId: item.id, testerId, startedAt, endedAt, verdict },
      ...{ environment: "test", build: build?.name ?? null, commit: build?.commit ?? null },
      repositoryId: build ? repositoryId : null,
    })),
    (c) => tx.insert(table.testRun).values(c),
  );
  await inChunks(
    rows.flatMap(({ run, id }) =>
      run.cases.map(({ made, said }, position) => ({
        ...{ runId: id, caseId: made.id, version: 1, position, itemId: run.item.id },
        verdict:
          run.endedAt === null
            ? null
            : said.some(({ result }) => result === "failed")
              ? ("failed" as const)
              : ("passed" as const),
      })),
    ),
    (c) => tx.insert(table.testRunCase).values(c),
  );
  await inChunks(
    rows.flatMap(({ run, id }) =>
      run.cases.flatMap(({ made, said }) =>
        said.map(({ stepId, result, note, at }) => ({
          ...{ runId: id, caseId: made.id, stepId, result, note, at },
          course: result === "failed" ? ("belongs to it" as const) : null,
        })),
      ),
    ),
    (c) => tx.insert(table.testStepResult).values(c),
  );
}

/** What the machines found in each of their runs; one of their tests changes its mind now and then. */
async function loadMachines(
  tx: Transaction,
  project: DemoProject,
  cases: readonly MadeCase[],
  {
    code,
    repositoryId,
    nextId,
    now,
  }: { code: DemoCode; repositoryId: string; nextId: () => string; now: Instant },
): Promise<void> {
  const known = cases.map(({ id, number, title }) => ({
    ...{ id, number, title, projectKey: project.key },
  }));
  const tests = MACHINE_TESTS[project.key].map((name) => ({
    ...{ id: nextId(), repositoryId, suite: "prices", name, firstAt: code.beganAt },
    caseId: caseOfMachine({ suite: "", name }, known)?.id ?? null,
  }));
  await tx.insert(table.machineTest).values(tests);
  const lately = code.delivery.runs.filter(({ endedAt }) => endedAt > now - 60 * DAY);
  const random = seededRandom(project.process.seed + 9700);
  const results = lately.flatMap(({ name: run, commit, endedAt, passed }) =>
    tests.flatMap((test, i) => {
      const failed = !passed && i === tests.length - 2;
      const row = { testId: test.id, commit, run, at: endedAt, message: "", took: 3 + i };
      const result = failed ? ("failed" as const) : ("passed" as const);
      if (test.name !== UNSTEADY || !random.chance(0.2)) return [{ ...row, result }];
      return [
        { ...row, result: "failed" as const, message: "expected “Heron”, was “”" },
        { ...row, run: `${run} again`, at: endedAt + MINUTE, result: "passed" as const },
      ];
    }),
  );
  await inChunks(results, (c) => tx.insert(table.machineResult).values(c));
}
