import { and, inArray, isNull } from "drizzle-orm";
import { environmentKey } from "@/core/ship/environment";
import { daysThere } from "@/core/ship/open-work";
import { inReviewOrder } from "@/core/ship/review-queue";
import type { QueueRow, TestQueue } from "@/core/ship/testing/testing-view";
import { mergedSince } from "@/core/ship/what-is-where";
import type { State } from "@/core/workflow/state";
import { meaningOf } from "@/core/workflow/state-meaning";
import { stateOf, transitionsFrom, type Workflow } from "@/core/workflow/workflow";
import { database } from "@/db/connection";
import { item, testRun, testSuite } from "@/db/schema";
import { seenIn } from "../../item/list/enter";
import { readRowsOf } from "../../item/list/read";
import { enterProject } from "../../people/access";
import { dutyBound } from "../../people/duties";
import { roster } from "../../people/roster";
import type { Viewer } from "../../people/viewer";
import { loadProjectWorkflows } from "../../workflow/load";
import { environmentsOf } from "../environments";
import { readPresence } from "../presence";
import { repositoriesOf } from "../repository";
import { hiddenCases } from "./hidden-cases";
import { namedRun, runsOfItems, runsWhere } from "./run-views";
import { contentsOfRuns } from "./run-contents";
import { buildsNow, testedItems, whereToTest } from "./tested-items";

/** More nobody tests in one go. */
const MOST = 300;

/** What waits to be tested in a project, and who tests what now. @throws Refused */
export async function readTestQueue(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<TestQueue> {
  const reader = database();
  const where = { key: projectKey };
  const access = await enterProject({ reader, viewer, where, action: "read project" });
  const { id: projectId, key, name, zone } = access.project;
  const [workflows, environments, repositories, testers, { people }] = await Promise.all([
    loadProjectWorkflows(reader, projectId),
    environmentsOf(reader, projectId),
    repositoriesOf(reader, projectId),
    dutyBound(reader, projectId, "tests"),
    roster(reader, projectId),
  ]);
  const states = workflows
    .flatMap((workflow) =>
      workflow.states.map((state) => ({ state, workflow, ...meaningOf(state, workflow.states) })),
    )
    .filter(({ ofTest }) => ofTest)
    .map(({ state, workflow }) => ({ ...state, takesTo: leadsIntoTest(workflow, state) }));
  const stateIds = states.map(({ id }) => id);
  const seen = seenIn(reader, viewer, [projectId]);
  const items =
    stateIds.length === 0
      ? []
      : await readRowsOf({ reader, where: and(seen.where, inArray(item.stateId, stateIds)) }, MOST);
  const ids = items.map(({ id }) => id);
  const [tested, presence, runs, builds, others] = await Promise.all([
    testedItems(reader, ids),
    readPresence(reader, ids),
    runsOfItems(reader, ids),
    buildsNow(
      reader,
      repositories.map((one) => one.id),
    ),
    runsOfNothing(viewer, projectId),
  ]);
  const rows = items.map((row): QueueRow => {
    const state = states.find(({ id }) => id === row.stateId)!;
    const there = whereToTest(row.id, presence, environments);
    const own = runs.filter(({ run }) => run.itemId === row.id);
    const { tested: how, cases } = tested.get(row.id)!;
    return {
      ...{ id: row.id, key: `${key}-${row.number}`, title: row.title, typeId: row.typeId },
      ...{ classOfService: row.classOfService, stateName: state.name },
      ...{ begun: state.kind === "working", since: row.enteredStateAt },
      days: daysThere(row.enteredStateAt, zone, now),
      builder: people.find(({ id }) => id === row.assigneeId)?.name ?? null,
      on: there && {
        environment: there.name,
        build: builds.get(environmentKey(there.name))?.build ?? null,
      },
      mergedAt: mergedSince(presence.merged.get(row.id) ?? []),
      hasHowToTest: row.howToTest !== null,
      takesTo: state.takesTo,
      ...{ tested: how, cases: cases.length },
      running: own.find(({ run }) => run.endedAt === null)?.named ?? null,
      last: own.find(({ run }) => run.endedAt !== null)?.named ?? null,
    };
  });
  return {
    project: { key, name, zone },
    me: viewer.personId,
    rows: inReviewOrder(rows),
    runs: others,
    environments: environments.map((one) => one.name),
    testers,
    rights: { edit: access.may("edit item") },
    now,
  };
}

/** The move by which what waits for its test comes to be tested; null where it is. */
function leadsIntoTest(workflow: Workflow, { id, kind }: State): QueueRow["takesTo"] {
  if (kind !== "waiting") return null;
  const there = transitionsFrom(workflow, id)
    .map(({ to }) => stateOf(workflow, to))
    .find((state) => state.kind === "working" && meaningOf(state, workflow.states).ofTest);
  return there ? { to: there.id, toName: there.name } : null;
}

/** Runs under way that are of a suite, or of some cases. */
async function runsOfNothing(viewer: Viewer, projectId: string): Promise<TestQueue["runs"]> {
  const reader = database();
  const runs = await runsWhere(
    reader,
    and(inArray(testRun.projectId, [projectId]), isNull(testRun.itemId), isNull(testRun.endedAt)),
  );
  if (runs.length === 0) return [];
  const [contents, suites] = await Promise.all([
    contentsOfRuns(
      reader,
      runs.map(({ id }) => id),
    ),
    reader
      .select()
      .from(testSuite)
      .where(inArray(testSuite.projectId, [projectId])),
  ]);
  const hidden = await hiddenCases(
    reader,
    viewer,
    contents.cases.map(({ runCase }) => runCase.caseId),
  );
  return runs.flatMap((run) => {
    const seen = contents.cases.find(
      ({ runCase }) => runCase.runId === run.id && !hidden.has(runCase.caseId),
    );
    if (!seen) return [];
    const suite = suites.find(({ id }) => id === run.suiteId);
    return [{ ...namedRun(run, contents), title: suite?.name ?? seen.version.title }];
  });
}
