import { and, eq, inArray } from "drizzle-orm";
import { v7 as newId } from "uuid";
import type { Instant } from "@/core/calendar/instant";
import { caseOfMachine, type CaseKnown } from "@/core/ship/testing/machine-test";
import type { TestNews } from "@/core/ship/test-event";
import type { Transaction } from "@/db/connection";
import { machineResult, machineTest, project } from "@/db/schema";
import type { Speaker } from "../../events/speakers";
import { wholeHash } from "../commit-graph";
import { repositoryHeard } from "../repository";
import type { Post } from "../taking";
import { announceTests } from "./announce-tests";
import { casesOfProject, itemsOfCases } from "./case-rows";

/** Results of one statement. */
const CHUNK = 500;

/**
 * Keeps what machines found, each test under its name, and matched to the case that it carries out. The
 * same result told twice is kept once.
 */
export async function takeTests(post: Post, news: TestNews): Promise<void> {
  const { tx, source, now } = post;
  const repositoryId = await repositoryHeard(post, news.repository);
  const commit = await wholeHash(tx, repositoryId, news.commit);
  const ids = await testsNamed(tx, source, { repositoryId, news });
  const rows = news.results.map(({ suite, name, result, took, message }) => ({
    ...{ testId: ids.get(nameOf({ suite, name }))!, commit, run: news.run, at: news.at },
    ...{ result, took, message },
  }));
  // A name that stands twice in one run says the worse of both.
  const once = new Map<string, (typeof rows)[number]>();
  for (const row of rows) if (once.get(row.testId)?.result !== "failed") once.set(row.testId, row);
  const kept = [...once.values()];
  for (let i = 0; i < kept.length; i += CHUNK)
    await tx
      .insert(machineResult)
      .values(kept.slice(i, i + CHUNK))
      .onConflictDoNothing();
  await tell(tx, source, { testIds: kept.map(({ testId }) => testId), now });
}

const nameOf = ({ suite, name }: { suite: string; name: string }): string => `${suite}\n${name}`;

/** The tests of a repository by their names; those that are heard of for the first time are made. */
async function testsNamed(
  tx: Transaction,
  source: Speaker,
  { repositoryId, news }: { repositoryId: string; news: TestNews },
): Promise<Map<string, string>> {
  const known = await tx
    .select()
    .from(machineTest)
    .where(eq(machineTest.repositoryId, repositoryId));
  const ids = new Map(known.map((one) => [nameOf(one), one.id]));
  const fresh = [
    ...new Map(
      news.results.filter((one) => !ids.has(nameOf(one))).map((one) => [nameOf(one), one]),
    ).values(),
  ];
  if (fresh.length === 0) return ids;
  const cases = await casesKnown(tx, source.projectIds);
  const rows = fresh.map(({ suite, name }) => ({
    ...{ id: newId(), repositoryId, suite, name, firstAt: news.at },
    caseId: caseOfMachine({ suite, name }, cases)?.id ?? null,
  }));
  for (let i = 0; i < rows.length; i += CHUNK)
    await tx.insert(machineTest).values(rows.slice(i, i + CHUNK));
  for (const row of rows) ids.set(nameOf(row), row.id);
  return ids;
}

async function casesKnown(tx: Transaction, projectIds: readonly string[]): Promise<CaseKnown[]> {
  const projects = await tx
    .select({ id: project.id, key: project.key })
    .from(project)
    .where(inArray(project.id, [...projectIds]));
  const all = await Promise.all(
    projects.map(async ({ id, key }) =>
      (await casesOfProject(tx, id)).map((one) => ({
        ...{ id: one.id, projectKey: key, number: one.number, title: one.title },
      })),
    ),
  );
  return all.flat();
}

/** Tells the pages of the items that the cases of some machines' tests are about. */
async function tell(
  tx: Transaction,
  { projectIds }: Speaker,
  { testIds, now }: { testIds: readonly string[]; now: Instant },
): Promise<void> {
  if (testIds.length === 0) return;
  const rows = await tx
    .selectDistinct({ caseId: machineTest.caseId })
    .from(machineTest)
    .where(and(inArray(machineTest.id, [...testIds])));
  const caseIds = rows.flatMap(({ caseId }) => caseId ?? []);
  const itemIds = [...(await itemsOfCases(tx, caseIds)).values()].flat();
  for (const projectId of projectIds) await announceTests(tx, projectId, { itemIds, now });
}
