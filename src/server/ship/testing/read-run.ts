import { and, desc, eq, inArray, isNotNull, lt, ne } from "drizzle-orm";
import { triggeredTransition } from "@/core/workflow/occurrence";
import { isReturn, stateOf, transitionsFrom } from "@/core/workflow/workflow";
import { caseKey } from "@/core/ship/testing/test-case";
import type {
  ItemMoves,
  RunCase,
  RunStep,
  RunView,
  TesterNamed,
} from "@/core/ship/testing/testing-view";
import { database, type Reader } from "@/db/connection";
import { person, testRun, testStepResult, testSuite } from "@/db/schema";
import { seeItem } from "../../item/enter";
import { namedItems, type NamedRow } from "../../item/list/named";
import { enterProject } from "../../people/access";
import { roster } from "../../people/roster";
import type { Viewer } from "../../people/viewer";
import { notFound } from "../../refused";
import { casesById } from "./case-rows";
import { hiddenCases } from "./hidden-cases";
import { namedRun } from "./run-views";
import { contentsOfRuns, type RunContents } from "./run-contents";
import { mayRecord, runNumbered, type RunRow } from "./runs";

/** A run with all that is said of it. @throws Refused */
export async function readRun(
  viewer: Viewer,
  projectKey: string,
  number: string,
  now = Date.now(),
): Promise<RunView> {
  const reader = database();
  const where = { key: projectKey };
  const access = await enterProject({ reader, viewer, where, action: "read project" });
  const { id: projectId, key, name, zone } = access.project;
  const run = await runNumbered(reader, viewer, projectId, number);
  const [contents, { people }, [tester]] = await Promise.all([
    contentsSeen(reader, viewer, run.id),
    roster(reader, projectId),
    reader.select({ name: person.name }).from(person).where(eq(person.id, run.testerId)),
  ]);
  const concerned = contents.cases.flatMap(({ runCase }) => runCase.itemId ?? []);
  const became = contents.steps.flatMap(({ said }) => said?.becameId ?? []);
  const [named, now_, lastTimes, title, nth] = await Promise.all([
    namedItems(viewer, [...concerned, ...became, ...(run.itemId ? [run.itemId] : [])]),
    casesById(
      reader,
      contents.cases.map(({ runCase }) => runCase.caseId),
    ),
    failedLastTime(reader, run, contents),
    titleOf(reader, run, contents),
    nthOf(reader, run),
  ]);
  const view: Viewing = { named, lastTimes, people, projectKey: key, contents };
  const cases = contents.cases.map(({ runCase, version }): RunCase => {
    const current = now_.find(({ id }) => id === runCase.caseId)!;
    return {
      ...{ caseId: runCase.caseId, key: caseKey(key, current.number), title: version.title },
      ...{ before: version.before, version: version.version, verdict: runCase.verdict },
      rewritten: current.version > version.version,
      item: itemNamed(named.get(runCase.itemId ?? "")),
      steps: stepsOf(runCase.caseId, view),
    };
  });
  const may = mayRecord(viewer, access, run);
  const item = named.get(run.itemId ?? "");
  const several = contents.cases.length > 1;
  return {
    ...namedRun({ ...run, tester: tester.name }, contents),
    ...{ id: run.id, project: { key, name, zone }, nth, givenUpAt: run.givenUpAt },
    title: several && item ? item.title : title,
    item: item ? { id: item.id, key: item.key, title: item.title } : null,
    cases,
    moves: may && run.endedAt === null ? await movesOf(reader, viewer, cases) : [],
    people: people
      .filter(({ role }) => role !== "observer")
      .map(({ id, name: n }) => ({ id, name: n })),
    mayRecord: may && run.endedAt === null,
    now,
  };
}

const itemNamed = (row: NamedRow | undefined): RunCase["item"] =>
  row ? { id: row.id, key: row.key, title: row.title, stateKind: row.stateKind } : null;

interface Viewing {
  named: ReadonlyMap<string, NamedRow>;
  lastTimes: ReadonlyMap<string, RunStep["lastTime"]>;
  people: readonly TesterNamed[];
  projectKey: string;
  contents: RunContents;
}

const placeOf = (caseId: string, stepId: string): string => `${caseId} ${stepId}`;

function stepsOf(caseId: string, { named, lastTimes, people, contents }: Viewing): RunStep[] {
  const pictures = contents.pictures.filter((one) => one.caseId === caseId);
  return contents.steps
    .filter((one) => one.caseId === caseId)
    .map(({ step, said }): RunStep => {
      const became = named.get(said?.becameId ?? "");
      const givenTo = people.find(({ id }) => id === said?.givenTo);
      return {
        ...step,
        ...{ result: said?.result ?? null, note: said?.note ?? "", course: said?.course ?? null },
        givenTo: givenTo ? { id: givenTo.id, name: givenTo.name } : null,
        pictures: pictures
          .filter(({ stepId }) => stepId === step.id)
          .map(({ id, name, width, height }) => ({ id, name, width, height })),
        lastTime: lastTimes.get(placeOf(caseId, step.id)) ?? null,
        became: became ? { key: became.key, title: became.title } : null,
      };
    });
}

/** What was seen in the run before this one, in each step that failed there. */
async function failedLastTime(
  reader: Reader,
  run: RunRow,
  { cases }: RunContents,
): Promise<Map<string, RunStep["lastTime"]>> {
  const caseIds = cases.map(({ runCase }) => runCase.caseId);
  if (caseIds.length === 0) return new Map();
  const rows = await reader
    .select({ said: testStepResult, run: testRun, by: person.name })
    .from(testStepResult)
    .innerJoin(testRun, eq(testRun.id, testStepResult.runId))
    .innerJoin(person, eq(person.id, testRun.testerId))
    .where(
      and(
        inArray(testStepResult.caseId, caseIds),
        isNotNull(testRun.endedAt),
        lt(testRun.startedAt, run.startedAt),
        ne(testRun.id, run.id),
        run.itemId === null ? undefined : eq(testRun.itemId, run.itemId),
      ),
    )
    .orderBy(desc(testRun.startedAt));
  const latest = new Map<string, (typeof rows)[number]>();
  for (const row of rows) {
    const place = placeOf(row.said.caseId, row.said.stepId);
    if (!latest.has(place)) latest.set(place, row);
  }
  return new Map(
    [...latest].flatMap(([place, { said, run: before, by }]) =>
      said.result === "failed"
        ? [
            [
              place,
              { note: said.note, by, at: said.at, build: before.build, run: before.number },
            ] as const,
          ]
        : [],
    ),
  );
}

async function titleOf(reader: Reader, run: RunRow, { cases }: RunContents): Promise<string> {
  if (run.suiteId !== null) {
    const [suite] = await reader.select().from(testSuite).where(eq(testSuite.id, run.suiteId));
    if (suite) return suite.name;
  }
  const [first] = cases;
  return cases.length === 1
    ? first.version.title
    : `${first.version.title} and ${cases.length - 1} more`;
}

/** Which of the runs of the same item it is. */
async function nthOf(reader: Reader, run: RunRow): Promise<number> {
  if (run.itemId === null) return 1;
  const rows = await reader
    .select({ id: testRun.id })
    .from(testRun)
    .where(and(eq(testRun.itemId, run.itemId), lt(testRun.number, run.number)));
  return rows.length + 1;
}

/** Where the items of a run can go when it ends; finished work stays where it is. */
async function movesOf(
  reader: Reader,
  viewer: Viewer,
  cases: readonly RunCase[],
): Promise<ItemMoves[]> {
  const items = new Map(cases.flatMap(({ item }) => (item ? [[item.id, item]] : [])));
  const all: ItemMoves[] = [];
  for (const { id, key, stateKind } of items.values()) {
    if (stateKind === "finished") continue;
    const { workflow, before } = await seeItem(reader, viewer, id, "read project");
    const heard = (verdict: "passed" | "failed") =>
      triggeredTransition(workflow, before, { kind: `test run ${verdict}`, run: "" }) !== undefined;
    all.push({
      ...{ itemId: id, key, stateName: stateOf(workflow, before.stateId).name },
      moves: transitionsFrom(workflow, before.stateId).map(({ to, verb }) => ({
        ...{ to, verb, toName: stateOf(workflow, to).name },
        back: isReturn(workflow, before.stateId, to),
      })),
      byItself: { passed: heard("passed"), failed: heard("failed") },
    });
  }
  return all;
}

/** What stands in a run, but the cases that somebody may not see. */
async function contentsSeen(reader: Reader, viewer: Viewer, runId: string): Promise<RunContents> {
  const { cases, steps, pictures } = await contentsOfRuns(reader, [runId]);
  const ids = cases.map(({ runCase }) => runCase.caseId);
  const hidden = await hiddenCases(reader, viewer, ids);
  if (hidden.size === ids.length && ids.length > 0) throw notFound("test run");
  return {
    cases: cases.filter(({ runCase }) => !hidden.has(runCase.caseId)),
    steps: steps.filter(({ caseId }) => !hidden.has(caseId)),
    pictures: pictures.filter(({ caseId }) => !hidden.has(caseId)),
  };
}
