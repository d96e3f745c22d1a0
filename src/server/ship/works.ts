import { sql, type SQL } from "drizzle-orm";
import type { AnyPgColumn } from "drizzle-orm/pg-core";
import { grouped } from "@/core/item/grouped";
import type { DiffSize } from "@/core/ship/code-event";
import { latestFirst } from "@/core/ship/commit-order";
import type { LinkedChange } from "@/core/item/outside";
import {
  sizeTogether,
  type CodeChange,
  type CodeCommit,
  type CodeReview,
  type CodeWork,
} from "@/core/ship/item-code";
import { subjectOf } from "@/core/ship/subject";
import type { codeBranch, codeChange, codeCommit, codeReview } from "@/db/schema";
import type { peopleOfMails } from "./code-people";

/*
 * What is kept of a code host, put together as pieces of work: a change with its branch, its commits
 * and what was said of it, or a branch that nobody has proposed yet.
 */

type BranchRow = typeof codeBranch.$inferSelect;
type ChangeRow = typeof codeChange.$inferSelect;
type CommitRow = typeof codeCommit.$inferSelect;
type ReviewRow = typeof codeReview.$inferSelect;
export type Naming = Awaited<ReturnType<typeof peopleOfMails>>;

/** Rows that belong together. */
export interface CodeRows {
  /** Names by ids. */
  repositories: ReadonlyMap<string, string>;
  branches: BranchRow[];
  changes: ChangeRow[];
  commits: CommitRow[];
  reviews: ReviewRow[];
}

/** All mail addresses that some rows speak of. */
export const mailsIn = ({ commits, changes, reviews }: CodeRows): (string | null)[] => [
  ...commits.map(({ authorMail }) => authorMail),
  ...changes.map(({ authorMail }) => authorMail),
  ...reviews.map(({ byMail }) => byMail),
];

/** As a condition: a row of one of some repositories with one of the names there. */
export function among(
  repositoryId: AnyPgColumn,
  name: AnyPgColumn,
  links: readonly { repositoryId: string; name: string }[],
): SQL {
  if (links.length === 0) return sql`false`;
  const pairs = links.map((link) => sql`(${link.repositoryId}::uuid, ${link.name})`);
  return sql`(${repositoryId}, ${name}) in (${sql.join(pairs, sql`, `)})`;
}

/** Changes, and branches that none of them came from. */
export function worksOf(
  rows: CodeRows,
  linked: readonly LinkedChange[],
  person: Naming,
): CodeWork[] {
  const ofChanges = rows.changes.map((change) =>
    workOf(rows, person, {
      change,
      linked: linked.find(({ id }) => id === change.name),
      branch: rows.branches.find((one) => isAt(one, change.repositoryId, change.branch)),
    }),
  );
  const alone = rows.branches.filter(
    ({ repositoryId, name, main }) =>
      !main &&
      !rows.changes.some((one) => one.repositoryId === repositoryId && one.branch === name),
  );
  return [...ofChanges, ...alone.map((branch) => workOf(rows, person, { branch }))];
}

const isAt = (branch: BranchRow, repositoryId: string, name: string | null): boolean =>
  branch.repositoryId === repositoryId && branch.name === name;

function workOf(
  rows: CodeRows,
  person: Naming,
  { change, linked, branch }: { change?: ChangeRow; linked?: LinkedChange; branch?: BranchRow },
): CodeWork {
  const { repositoryId } = (change ?? branch)!;
  const name = change?.branch ?? branch?.name ?? null;
  const own = rows.commits.filter(
    (row) => row.repositoryId === repositoryId && row.branch === name,
  );
  const commits = latestFirst(own).map((row) => commitView(row, person));
  const told = change ? sizeOf(change) : null;
  const size = told ?? sizeTogether(commits.filter(({ leftBehind }) => !leftBehind));
  return {
    id: change ? change.id : `${repositoryId} ${name}`,
    repository: rows.repositories.get(repositoryId)!,
    branch: name,
    branchGone: branch !== undefined && branch.goneAt !== null,
    branchUrl: branch?.goneAt === null ? branch.url : null,
    change: change ? changeView(rows, person, change, linked) : null,
    commits,
    size,
    at: Math.max(change?.toldAt ?? 0, branch?.pushedAt ?? branch?.toldAt ?? 0),
  };
}

/** How large a difference is, as its row says; null where nobody told. */
const sizeOf = ({ files, insertions, deletions }: Sized): DiffSize | null =>
  files === null ? null : { files, insertions: insertions ?? 0, deletions: deletions ?? 0 };

type Sized = Pick<CommitRow, "files" | "insertions" | "deletions">;

function changeView(
  { reviews }: CodeRows,
  person: Naming,
  change: ChangeRow,
  linked: LinkedChange | undefined,
): CodeChange {
  const { name, title, status, authorMail, authorName, head, ...rest } = change;
  const latest = grouped(
    reviews.filter(({ changeId }) => changeId === change.id),
    ({ byMail }) => byMail,
  );
  const { openedAt, endedAt, behind, mergesCleanly, url } = rest;
  return {
    ...{ name, title, status, openedAt, endedAt, behind, mergesCleanly, url },
    by: authorMail === null ? null : person(authorMail, authorName ?? ""),
    checks: linked?.checks ?? change.checks,
    reviews: [...latest.values()].map(([review]): CodeReview => ({
      by: person(review.byMail, review.byName),
      verdict: review.verdict,
      at: review.at,
      ofOlder: review.head !== null && head !== null && review.head !== head,
    })),
  };
}

export function commitView(row: CommitRow, person: Naming): CodeCommit {
  return {
    hash: row.hash,
    subject: subjectOf(row.message),
    by: person(row.authorMail, row.authorName),
    authoredAt: row.authoredAt,
    size: sizeOf(row),
    url: row.url,
    onMain: row.mainAt !== null,
    leftBehind: row.leftBehindAt !== null,
    revertedBy: row.revertedBy,
  };
}
