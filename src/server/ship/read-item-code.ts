import { desc, eq, inArray, or, sql, type SQL } from "drizzle-orm";
import type { AnyPgColumn } from "drizzle-orm/pg-core";
import { cutText } from "@/core/formats/cut-text";
import { grouped } from "@/core/item/grouped";
import type { LinkedChange } from "@/core/item/outside";
import type { ItemSnapshot } from "@/core/item/fields";
import {
  inOrderOfWork,
  sizeTogether,
  type CodeChange,
  type CodeCommit,
  type CodeReview,
  type CodeWork,
  type ItemCode,
} from "@/core/ship/item-code";
import type { Reader } from "@/db/connection";
import {
  codeBranch,
  codeChange,
  codeCommit,
  codeRepository,
  codeReview,
  itemCode,
} from "@/db/schema";
import { peopleOfMails } from "./code-people";

type BranchRow = typeof codeBranch.$inferSelect;
type ChangeRow = typeof codeChange.$inferSelect;
type CommitRow = typeof codeCommit.$inferSelect;
type ReviewRow = typeof codeReview.$inferSelect;
type Naming = Awaited<ReturnType<typeof peopleOfMails>>;

/** So many commits are shown; an item with more is known by its changes. */
const MOST = 200;
/** Longer first lines are cut. */
const SUBJECT = 300;

/**
 * What an item has in the code hosts that its project hears of. Whoever may see the item may see it.
 */
export async function readItemCode(
  reader: Reader,
  { id, outside: { changes } }: Pick<ItemSnapshot, "id" | "outside">,
): Promise<Omit<ItemCode, "branchName">> {
  const rows = await readRows(reader, id);
  const person = await peopleOfMails(reader, [
    ...rows.commits.map(({ authorMail }) => authorMail),
    ...rows.changes.map(({ authorMail }) => authorMail),
    ...rows.reviews.map(({ byMail }) => byMail),
  ]);
  const works = worksOf(rows, changes, person);
  const inWork = new Set(works.flatMap((work) => work.commits.map(({ hash }) => hash)));
  return {
    works: inOrderOfWork([...works, ...byNameAlone(changes, rows.changes)]),
    mentions: rows.commits
      .filter(({ hash }) => !inWork.has(hash))
      .map((row) => ({
        ...commitView(row, person),
        repository: rows.repositories.get(row.repositoryId)!,
      })),
  };
}

interface Rows {
  /** Names by ids. */
  repositories: ReadonlyMap<string, string>;
  branches: BranchRow[];
  changes: ChangeRow[];
  commits: CommitRow[];
  reviews: ReviewRow[];
}

/** What an item is linked to, with the commits of its branches and the branches of its changes. */
async function readRows(reader: Reader, itemId: string): Promise<Rows> {
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

/** As a condition: a row of one of some repositories with one of the names there. */
function among(
  repositoryId: AnyPgColumn,
  name: AnyPgColumn,
  links: readonly { repositoryId: string; name: string }[],
): SQL {
  if (links.length === 0) return sql`false`;
  const pairs = links.map((link) => sql`(${link.repositoryId}::uuid, ${link.name})`);
  return sql`(${repositoryId}, ${name}) in (${sql.join(pairs, sql`, `)})`;
}

/** Changes, and branches that none of them came from. */
function worksOf(rows: Rows, linked: readonly LinkedChange[], person: Naming): CodeWork[] {
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
  rows: Rows,
  person: Naming,
  { change, linked, branch }: { change?: ChangeRow; linked?: LinkedChange; branch?: BranchRow },
): CodeWork {
  const { repositoryId } = (change ?? branch)!;
  const name = change?.branch ?? branch?.name ?? null;
  const commits = rows.commits
    .filter((row) => row.repositoryId === repositoryId && row.branch === name)
    .map((row) => commitView(row, person));
  const size =
    change?.files != null
      ? {
          files: change.files,
          insertions: change.insertions ?? 0,
          deletions: change.deletions ?? 0,
        }
      : sizeTogether(commits.filter(({ leftBehind }) => !leftBehind));
  return {
    id: change ? change.id : `${repositoryId} ${name}`,
    repository: rows.repositories.get(repositoryId)!,
    branch: name,
    branchGone: branch !== undefined && branch.goneAt !== null,
    change: change ? changeView(rows, person, change, linked) : null,
    commits,
    size,
    at: Math.max(change?.toldAt ?? 0, branch?.pushedAt ?? branch?.toldAt ?? 0),
  };
}

function changeView(
  { reviews }: Rows,
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
    checks: linked?.checks ?? null,
    reviews: [...latest.values()].map(([review]): CodeReview => ({
      by: person(review.byMail, review.byName),
      verdict: review.verdict,
      at: review.at,
      ofOlder: review.head !== null && head !== null && review.head !== head,
    })),
  };
}

function commitView(row: CommitRow, person: Naming): CodeCommit {
  const { files, insertions, deletions } = row;
  return {
    hash: row.hash,
    subject: cutText(row.message.trimStart().split("\n", 1)[0], SUBJECT),
    by: person(row.authorMail, row.authorName),
    authoredAt: row.authoredAt,
    size: files === null ? null : { files, insertions: insertions ?? 0, deletions: deletions ?? 0 },
    url: row.url,
    onMain: row.mainAt !== null,
    leftBehind: row.leftBehindAt !== null,
    revertedBy: row.revertedBy,
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
