import { desc, eq, inArray, or } from "drizzle-orm";
import type { ItemSnapshot } from "@/core/item/fields";
import type { LinkedChange } from "@/core/item/outside";
import { inOrderOfWork, type CodeWork, type ItemCode } from "@/core/ship/item-code";
import type { Reader } from "@/db/connection";
import {
  codeBranch,
  codeChange,
  codeCommit,
  codeRepository,
  codeReview,
  eventSource,
  itemCode,
} from "@/db/schema";
import { peopleOfMails } from "./code-people";
import { among, commitView, mailsIn, worksOf, type CodeRows } from "./works";

/** So many commits are shown; an item with more is known by its changes. */
const MOST = 200;

/**
 * What an item has in the code hosts that its project hears of. Whoever may see the item may see it.
 */
export async function readItemCode(
  reader: Reader,
  { id, projectId, outside: { changes } }: Pick<ItemSnapshot, "id" | "projectId" | "outside">,
): Promise<Omit<ItemCode, "branchName">> {
  const [rows, [repository]] = await Promise.all([
    readRows(reader, id),
    reader
      .select({ id: codeRepository.id })
      .from(codeRepository)
      .innerJoin(eventSource, eq(eventSource.id, codeRepository.sourceId))
      .where(eq(eventSource.projectId, projectId))
      .limit(1),
  ]);
  const person = await peopleOfMails(reader, mailsIn(rows));
  const works = worksOf(rows, changes, person);
  const inWork = new Set(works.flatMap((work) => work.commits.map(({ hash }) => hash)));
  return {
    heard: repository !== undefined,
    works: inOrderOfWork([...works, ...byNameAlone(changes, rows.changes)]),
    mentions: rows.commits
      .filter(({ hash }) => !inWork.has(hash))
      .map((row) => ({
        ...commitView(row, person),
        repository: rows.repositories.get(row.repositoryId)!,
      })),
  };
}

/** What an item is linked to, with the commits of its branches and the branches of its changes. */
async function readRows(reader: Reader, itemId: string): Promise<CodeRows> {
  const links = await reader.select().from(itemCode).where(eq(itemCode.itemId, itemId));
  if (links.length === 0)
    return { repositories: new Map(), branches: [], changes: [], commits: [], reviews: [] };
  const of = (kind: (typeof links)[number]["kind"]) => links.filter((link) => link.kind === kind);
  const changes = await reader
    .select()
    .from(codeChange)
    .where(among(codeChange.repositoryId, codeChange.name, of("change")));
  const onBranches = [
    ...of("branch"),
    ...changes.flatMap(({ repositoryId, branch }) =>
      branch === null ? [] : [{ repositoryId, name: branch }],
    ),
  ];
  const [repositories, branches, commits, reviews] = await Promise.all([
    reader
      .select({ id: codeRepository.id, name: codeRepository.name })
      .from(codeRepository)
      .where(
        inArray(
          codeRepository.id,
          links.map(({ repositoryId }) => repositoryId),
        ),
      ),
    reader
      .select()
      .from(codeBranch)
      .where(among(codeBranch.repositoryId, codeBranch.name, onBranches)),
    reader
      .select()
      .from(codeCommit)
      .where(
        or(
          among(codeCommit.repositoryId, codeCommit.hash, of("commit")),
          among(codeCommit.repositoryId, codeCommit.branch, onBranches),
        ),
      )
      .orderBy(desc(codeCommit.authoredAt), desc(codeCommit.hash))
      .limit(MOST),
    reader
      .select()
      .from(codeReview)
      .where(
        inArray(
          codeReview.changeId,
          changes.map(({ id }) => id),
        ),
      )
      .orderBy(desc(codeReview.at)),
  ]);
  return {
    repositories: new Map(repositories.map(({ id, name }) => [id, name])),
    branches,
    changes,
    commits,
    reviews,
  };
}

/** Changes of which the events say no more than their names. */
const byNameAlone = (
  linked: readonly LinkedChange[],
  known: readonly { name: string }[],
): CodeWork[] =>
  linked
    .filter(({ id }) => !known.some(({ name }) => name === id))
    .map(({ id, status, checks }) => ({
      ...{ id, repository: null, branch: null, branchGone: false, commits: [], size: null, at: 0 },
      change: {
        ...{ name: id, title: "", status, by: null, openedAt: null, endedAt: null, checks },
        ...{ reviews: [], behind: null, mergesCleanly: null, url: null },
      },
    }));
