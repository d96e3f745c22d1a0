import { and, desc, eq, sql } from "drizzle-orm";
import { addressFor, environmentKey } from "@/core/ship/environment";
import { subjectOf } from "@/core/ship/subject";
import type { ItemTests, SeenToFail } from "@/core/ship/testing/testing-view";
import { database, type Reader } from "@/db/connection";
import { codeBuild, codeCommit, testCase, testRun, testStepResult } from "@/db/schema";
import { seeByKey } from "../../item/by-key";
import { dutyBound } from "../../people/duties";
import type { Viewer } from "../../people/viewer";
import { stateOf } from "@/core/workflow/workflow";
import { peopleOfMails } from "../code-people";
import { environmentsOf } from "../environments";
import { commitsOf } from "../item-commits";
import { readPresence } from "../presence";
import { repositoriesOf } from "../repository";
import { caseKey } from "@/core/ship/testing/test-case";
import { itemCase } from "./item-case";
import { machinesOfCases, seenToFail, type MachineRow } from "./machine-rows";
import { runsOfItems, type TestedRun } from "./run-views";
import { stepOfRun } from "./runs";
import { buildsNow, testedItems, whereToTest, type CaseOfItem } from "./tested-items";

const BUILDS_OFFERED = 20;
const COMMITS_SHOWN = 12;

/** How an item is tested. Whoever may see the item may see it. @throws Refused */
export async function readItemTests(
  viewer: Viewer,
  itemKey: string,
  now = Date.now(),
): Promise<ItemTests> {
  const reader = database();
  const { itemId, access, before, workflow } = await seeByKey(
    reader,
    viewer,
    itemKey,
    "read project",
  );
  const { id: projectId, key: projectKey } = access.project;
  const key = `${projectKey}-${before.number}`;
  const [tested, presence, runs, environments, repositories, testers] = await Promise.all([
    testedItems(reader, [itemId]),
    readPresence(reader, [itemId]),
    runsOfItems(reader, [itemId]),
    environmentsOf(reader, projectId),
    repositoriesOf(reader, projectId),
    dutyBound(reader, projectId, "tests"),
  ]);
  const { tested: how, cases } = tested.get(itemId)!;
  const repositoryIds = repositories.map((one) => one.id);
  const [machines, builds, offered, commits] = await Promise.all([
    machinesOfCases(
      reader,
      cases.map(({ now: one }) => one.id),
    ),
    buildsNow(reader, repositoryIds),
    buildsOffered(reader, repositoryIds),
    commitsOf(reader, itemId),
  ]);
  const there = whereToTest(itemId, presence, environments);
  const state = stateOf(workflow, before.stateId);
  const lastRun = runs.find(({ run }) => run.endedAt !== null)?.run ?? null;
  return {
    item: { id: itemId, key, title: before.title, stateName: state.name, stateKind: state.kind },
    howToTest: before.howToTest,
    tested: how,
    cases: cases.map((one) => itemCase(one, { projectKey, machines })),
    runs: runs.map(({ named }) => named),
    gaveUp: await lastGivenUp(reader, itemId),
    firstFailed: failedFirst(cases, machines, new Set(commits.map(({ hash }) => hash))),
    foundBy: await foundBy(reader, itemId, projectKey),
    changedSince: await changedSince(reader, commits, lastRun),
    builds: offered.map(({ name, at }) => ({
      ...{ build: name, at },
      environment: [...builds].find(([, one]) => one.build === name)?.[0] ?? null,
    })),
    environments: environments.map(({ name }) => name),
    testers,
    on: there && {
      environment: there.name,
      build: builds.get(environmentKey(there.name))?.build ?? null,
      address: addressFor(there, key),
    },
    criteria: before.criteria.map(({ id, text }) => ({ id, text })),
    rights: { edit: access.may("edit item") },
    now,
  };
}

const failedFirst = (
  cases: readonly CaseOfItem[],
  machines: ReadonlyMap<string, readonly MachineRow[]>,
  commits: ReadonlySet<string>,
): SeenToFail[] =>
  cases.flatMap(({ now: { id } }) =>
    (machines.get(id) ?? []).flatMap((machine) => {
      const seen = seenToFail(machine, commits);
      return seen ? [{ caseId: id, ...seen }] : [];
    }),
  );

const buildsOffered = (reader: Reader, repositoryIds: readonly string[]) =>
  reader
    .select({ name: codeBuild.name, at: codeBuild.at })
    .from(codeBuild)
    .where(sql`${codeBuild.repositoryId} = any(${sql.param([...repositoryIds])}::uuid[])`)
    .orderBy(desc(codeBuild.at), desc(codeBuild.name))
    .limit(BUILDS_OFFERED);

/** What of an item came to main after its last run began. */
async function changedSince(
  reader: Reader,
  commits: readonly { repositoryId: string; hash: string; mainAt: number | null }[],
  last: TestedRun | null,
): Promise<ItemTests["changedSince"]> {
  if (last === null) return [];
  const fresh = commits.filter(({ mainAt }) => mainAt !== null && mainAt > last.startedAt);
  if (fresh.length === 0) return [];
  const rows = await reader
    .select()
    .from(codeCommit)
    .where(
      and(
        eq(codeCommit.repositoryId, fresh[0].repositoryId),
        sql`${codeCommit.hash} = any(${sql.param(fresh.map(({ hash }) => hash))}::text[])`,
        // A merge brings what others say.
        sql`cardinality(${codeCommit.parents}) < 2`,
      ),
    )
    .orderBy(desc(codeCommit.mainAt), desc(codeCommit.authoredAt))
    .limit(COMMITS_SHOWN);
  const person = await peopleOfMails(
    reader,
    rows.map(({ authorMail }) => authorMail),
  );
  return rows.map(({ hash, message, authorMail, authorName, url, mainAt }) => ({
    ...{ hash, url, at: mainAt!, message: subjectOf(message) },
    author: person(authorMail, authorName).name,
  }));
}

/** The step of a run that failed and became an item. */
async function foundBy(
  reader: Reader,
  itemId: string,
  projectKey: string,
): Promise<ItemTests["foundBy"]> {
  const [found] = await reader
    .select({ said: testStepResult, run: testRun.number, of: testCase.number })
    .from(testStepResult)
    .innerJoin(testRun, eq(testRun.id, testStepResult.runId))
    .innerJoin(testCase, eq(testCase.id, testStepResult.caseId))
    .where(eq(testStepResult.becameId, itemId))
    .limit(1);
  if (!found) return null;
  const { caseId, stepId, runId } = found.said;
  const { step, number } = await stepOfRun(reader, { id: runId }, { caseId, stepId });
  return {
    ...{ caseKey: caseKey(projectKey, found.of), caseNumber: found.of, run: found.run },
    ...{ step: number, expected: step.expected },
  };
}

async function lastGivenUp(reader: Reader, itemId: string): Promise<number | null> {
  const [last] = await reader
    .select({ number: testRun.number, givenUpAt: testRun.givenUpAt, endedAt: testRun.endedAt })
    .from(testRun)
    .where(eq(testRun.itemId, itemId))
    .orderBy(desc(testRun.startedAt), desc(testRun.number))
    .limit(1);
  return last && last.givenUpAt !== null && last.endedAt === null ? last.number : null;
}
