import { desc, inArray, or } from "drizzle-orm";
import type { Reader } from "@/db/connection";
import {
  codeBranch,
  codeChange,
  codeCommit,
  codeRepository,
  codeReview,
  itemCode,
} from "@/db/schema";
import { among, type CodeRows } from "./works";

/** So many commits of an item are shown; one with more is known by its changes. */
const MOST = 200;

/** Rows with what links them to items. */
export interface LinkedRows extends CodeRows {
  links: (typeof itemCode.$inferSelect)[];
}

/** What some items are linked to, with the commits of their branches and the branches of their changes. */
export async function readCodeRows(
  reader: Reader,
  itemIds: readonly string[],
): Promise<LinkedRows> {
  const links = await reader
    .select()
    .from(itemCode)
    .where(inArray(itemCode.itemId, [...itemIds]));
  if (links.length === 0)
    return { repositories: new Map(), branches: [], changes: [], commits: [], reviews: [], links };
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
      .limit(MOST * itemIds.length),
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
    links,
  };
}

/** Of the rows of several items those of one. */
export function rowsOfItem(rows: LinkedRows, itemId: string): CodeRows {
  const links = rows.links.filter((link) => link.itemId === itemId);
  const isLinked = (kind: string, repositoryId: string, name: string | null) =>
    links.some(
      (link) => link.kind === kind && link.repositoryId === repositoryId && link.name === name,
    );
  const changes = rows.changes.filter((row) => isLinked("change", row.repositoryId, row.name));
  const isOnBranch = (repositoryId: string, name: string) =>
    isLinked("branch", repositoryId, name) ||
    changes.some((change) => change.repositoryId === repositoryId && change.branch === name);
  return {
    repositories: rows.repositories,
    changes,
    branches: rows.branches.filter((row) => isOnBranch(row.repositoryId, row.name)),
    commits: rows.commits.filter(
      (row) =>
        isOnBranch(row.repositoryId, row.branch) || isLinked("commit", row.repositoryId, row.hash),
    ),
    reviews: rows.reviews.filter(({ changeId }) => changes.some(({ id }) => id === changeId)),
  };
}
