import { and, eq, inArray, isNotNull, or, sql } from "drizzle-orm";
import { grouped } from "@/core/item/grouped";
import { subjectOf } from "@/core/ship/subject";
import { suspectsOf, type MergedWork, type Suspect } from "@/core/ship/testing/whose-is-it";
import { database, type Reader } from "@/db/connection";
import { codeChange, codeCommit, itemCode, testCase } from "@/db/schema";
import { namedItems } from "../../item/list/named";
import { readRows } from "../../item/list/read";
import { enterProject } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import { peopleOfMails } from "../code-people";
import { repositoriesOf } from "../repository";
import { timesTried } from "./case-rows";
import { mustSeeCases } from "./hidden-cases";
import { runNumbered, stepOfRun, type RunRow } from "./runs";

/** Where nothing is known of a pass, what was merged last is looked at. */
const LATEST = 30;
const MOST = 200;

/**
 * Whose a failing step may be: what was merged since its case passed last, with what speaks for each.
 * @throws Refused
 */
export async function readSuspects(
  viewer: Viewer,
  projectKey: string,
  number: string,
  { caseId, stepId }: { caseId: string; stepId: string },
): Promise<{ suspects: Suspect[]; since: string | null }> {
  const reader = database();
  const where = { key: projectKey };
  const { project: at } = await enterProject({ reader, viewer, where, action: "read project" });
  const run = await runNumbered(reader, viewer, at.id, number);
  await mustSeeCases(reader, viewer, [caseId]);
  const { step, runCase } = await stepOfRun(reader, run, { caseId, stepId });
  const passed = (await timesTried(reader, [caseId])).find(
    ({ verdict, startedAt }) => verdict === "passed" && startedAt < run.startedAt,
  );
  const commits = await mergedSince(reader, at.id, { run, passed: passed ?? null });
  const works = await worksOf(reader, viewer, commits);
  const [[of], items] = await Promise.all([
    reader.select({ part: testCase.part }).from(testCase).where(eq(testCase.id, caseId)),
    readRows(reader, { ids: runCase.itemId ? [runCase.itemId] : [] }),
  ]);
  const parts = [...(of.part ? [of.part] : []), ...items.flatMap((one) => one.parts)];
  const text = `${step.action} ${step.expected}`;
  return {
    suspects: suspectsOf(
      { itemId: runCase.itemId, parts, text, passedBefore: passed !== undefined },
      works,
    ),
    since: passed ? `run ${passed.run}` : null,
  };
}

type CommitRow = typeof codeCommit.$inferSelect;

/** The commits that a run's build has and the build of the last pass had not. */
async function mergedSince(
  reader: Reader,
  projectId: string,
  { run, passed }: { run: RunRow; passed: { commit: string | null; startedAt: number } | null },
): Promise<CommitRow[]> {
  const repositoryIds = (await repositoriesOf(reader, projectId)).map(({ id }) => id);
  if (repositoryIds.length === 0) return [];
  const now = run.commit ? await reachOf(reader, run.repositoryId!, run.commit) : null;
  const before = passed?.commit
    ? new Set(await reachOf(reader, run.repositoryId ?? repositoryIds[0], passed.commit))
    : null;
  const rows = await reader
    .select()
    .from(codeCommit)
    .where(
      and(
        inArray(codeCommit.repositoryId, repositoryIds),
        isNotNull(codeCommit.mainAt),
        now ? sql`${codeCommit.hash} = any(${sql.param(now)}::text[])` : undefined,
        // Of a pass whose build nobody knows the time has to do.
        passed && !before
          ? sql`${codeCommit.mainAt} > ${new Date(passed.startedAt).toISOString()}::timestamptz`
          : undefined,
        sql`${codeCommit.mainAt} <= ${new Date(run.startedAt).toISOString()}::timestamptz`,
      ),
    )
    .orderBy(sql`${codeCommit.mainAt} desc`, sql`${codeCommit.authoredAt} desc`)
    .limit(passed ? 2_000 : LATEST);
  return rows.filter(({ hash }) => !before?.has(hash)).slice(0, MOST);
}

async function reachOf(reader: Reader, repositoryId: string, commit: string): Promise<string[]> {
  const { rows } = await reader.execute<{ hash: string }>(sql`
    with recursive reached as (
      select c.hash, c.parents from ${codeCommit} c
      where c.repository_id = ${repositoryId} and c.hash = ${commit}
      union
      select c.hash, c.parents from reached r
      join ${codeCommit} c on c.repository_id = ${repositoryId} and c.hash = any(r.parents)
    )
    select hash from reached`);
  return rows.map(({ hash }) => hash);
}

/** Commits as pieces of work: together by the change that they came with. Merges say nothing of their own. */
async function worksOf(
  reader: Reader,
  viewer: Viewer,
  commits: readonly CommitRow[],
): Promise<MergedWork[]> {
  const own = commits.filter(({ parents }) => parents.length < 2);
  if (own.length === 0) return [];
  const branches = [...new Set(own.map(({ branch }) => branch))];
  const repositoryIds = [...new Set(own.map(({ repositoryId }) => repositoryId))];
  const [changes, person] = await Promise.all([
    reader
      .select()
      .from(codeChange)
      .where(
        and(
          inArray(codeChange.repositoryId, repositoryIds),
          inArray(codeChange.branch, branches),
          eq(codeChange.status, "merged"),
        ),
      ),
    peopleOfMails(
      reader,
      own.map(({ authorMail }) => authorMail),
    ),
  ]);
  const changeOf = ({ repositoryId, branch }: CommitRow) =>
    changes.find((one) => one.repositoryId === repositoryId && one.branch === branch);
  const together = [...grouped(own, (one) => changeOf(one)?.name ?? one.hash).values()];
  const links = await linksOf(reader, own, changes);
  const linked = together.map((group) => {
    const change = changeOf(group[0]);
    const names = new Set([
      ...group.map(({ hash }) => hash),
      ...(change ? [change.name, group[0].branch] : []),
    ]);
    return links.find(
      ({ repositoryId, name }) => repositoryId === group[0].repositoryId && names.has(name),
    );
  });
  const itemIds = linked.flatMap((one) => one?.itemId ?? []);
  const [named, rows] = await Promise.all([
    namedItems(viewer, itemIds),
    readRows(reader, { ids: itemIds }),
  ]);
  return together.map((group, i): MergedWork => {
    const change = changeOf(group[0]);
    const [latest] = group;
    const item = named.get(linked[i]?.itemId ?? "");
    const author = person(latest.authorMail, latest.authorName);
    return {
      id: change?.name ?? latest.hash,
      words: change?.title || subjectOf(latest.message),
      url: change?.url ?? latest.url,
      item: item
        ? {
            ...{ id: item.id, key: item.key, title: item.title },
            parts: rows.find(({ id }) => id === item.id)?.parts ?? [],
          }
        : null,
      author: { id: author.personId, name: author.name },
      mergedAt: latest.mainAt!,
    };
  });
}

/** What of some commits, their branches and changes belongs to items. */
const linksOf = (
  reader: Reader,
  commits: readonly CommitRow[],
  changes: readonly { name: string }[],
) =>
  reader
    .select()
    .from(itemCode)
    .where(
      and(
        inArray(itemCode.repositoryId, [...new Set(commits.map((one) => one.repositoryId))]),
        or(
          inArray(
            itemCode.name,
            commits.map(({ hash }) => hash),
          ),
          inArray(itemCode.name, [
            ...new Set([
              ...commits.map(({ branch }) => branch),
              ...changes.map(({ name }) => name),
            ]),
          ]),
        ),
      ),
    );
