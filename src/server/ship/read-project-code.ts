import { and, asc, count, desc, eq, inArray, isNull, max, or, sql } from "drizzle-orm";
import { grouped } from "@/core/item/grouped";
import {
  daysThere,
  MERGED_SHOWN,
  type CodeStranger,
  type ProjectCode,
  type ProjectWork,
} from "@/core/ship/open-work";
import type { CodeWork } from "@/core/ship/item-code";
import { database, type Reader } from "@/db/connection";
import {
  codeAddress,
  codeBranch,
  codeChange,
  codeCommit,
  codeReview,
  itemCode,
  person,
} from "@/db/schema";
import { namedItems } from "../item/list/named";
import { enterProject } from "../people/access";
import { roster } from "../people/roster";
import type { Viewer } from "../people/viewer";
import { hasCodeHost } from "./code-host";
import { peopleOfMails } from "./code-people";
import { readMainStates } from "./main-state";
import { repositoriesOf } from "./repository";
import { shipSettingsOf } from "./settings";
import { among, mailsIn, worksOf, type CodeRows } from "./works";

/** More of them open at once nobody looks through. */
const MOST = 200;
const STRANGERS = 20;

/** What a project has in its code hosts. @throws Refused */
export async function readProjectCode(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<ProjectCode> {
  const reader = database();
  const where = { key: projectKey };
  const access = await enterProject({ reader, viewer, where, action: "read project" });
  const of = access.project;
  const mayEdit = access.may("edit workflow");
  const repositories = await repositoriesOf(reader, of.id);
  const ids = repositories.map(({ id }) => id);
  const [rows, strangers, mains, { people }] = await Promise.all([
    readRows(reader, repositories),
    mayEdit ? readStrangers(reader, ids) : [],
    readMainStates(reader, repositories),
    roster(reader, of.id),
  ]);
  const { works, hidden } = await withItems(viewer, rows, {
    works: worksOf(rows, [], await peopleOfMails(reader, mailsIn(rows))),
    days: (since) => daysThere(since, of.zone, now),
  });
  const oldestFirst = works.toSorted((a, b) => b.days - a.days || a.at - b.at);
  return {
    project: { key: of.key, name: of.name, zone: of.zone },
    settings: shipSettingsOf(of),
    heard: ids.length > 0,
    mains,
    hostBeside: hasCodeHost(),
    open: oldestFirst.filter(({ change }) => change?.status === "open"),
    branches: oldestFirst.filter(({ change }) => change === null),
    merged: works
      .filter(({ change }) => change?.status === "merged")
      .toSorted((a, b) => b.change!.endedAt! - a.change!.endedAt!),
    hidden,
    strangers,
    people: mayEdit ? people.map(({ id, name }) => ({ id, name })) : [],
    rights: { settings: mayEdit },
    now,
  };
}

/** Changes that are open or were merged lately, and branches of which something is not on main. */
async function readRows(
  reader: Reader,
  repositories: readonly { id: string; name: string }[],
): Promise<CodeRows> {
  const names = new Map(repositories.map(({ id, name }) => [id, name]));
  const ids = [...names.keys()];
  const ofThem = inArray(codeChange.repositoryId, ids);
  const [open, merged, unmerged] = await Promise.all([
    reader
      .select()
      .from(codeChange)
      .where(and(ofThem, eq(codeChange.status, "open")))
      .orderBy(asc(codeChange.openedAt))
      .limit(MOST),
    reader
      .select()
      .from(codeChange)
      .where(and(ofThem, eq(codeChange.status, "merged")))
      .orderBy(desc(codeChange.endedAt))
      .limit(MERGED_SHOWN),
    readUnmerged(reader, ids),
  ]);
  const changes = [...open, ...merged];
  const proposed = new Set(
    changes.flatMap((one) => (one.branch === null ? [] : [`${one.repositoryId} ${one.branch}`])),
  );
  const onBranches = changes.flatMap(({ repositoryId, branch }) =>
    branch === null ? [] : [{ repositoryId, name: branch }],
  );
  const branches = [
    ...(await reader
      .select()
      .from(codeBranch)
      .where(among(codeBranch.repositoryId, codeBranch.name, onBranches))),
    ...unmerged.filter(({ repositoryId, name }) => !proposed.has(`${repositoryId} ${name}`)),
  ];
  const [commits, reviews] = await Promise.all([
    reader
      .select()
      .from(codeCommit)
      .where(
        among(
          codeCommit.repositoryId,
          codeCommit.branch,
          branches.map(({ repositoryId, name }) => ({ repositoryId, name })),
        ),
      )
      .orderBy(desc(codeCommit.authoredAt), desc(codeCommit.hash)),
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
  return { repositories: names, branches, changes, commits, reviews };
}

/** Branches that are there, with something on them that main does not have. */
const readUnmerged = (reader: Reader, repositoryIds: readonly string[]) =>
  reader
    .select()
    .from(codeBranch)
    .where(
      and(
        inArray(codeBranch.repositoryId, [...repositoryIds]),
        eq(codeBranch.main, false),
        isNull(codeBranch.goneAt),
        sql`exists (select 1 from ${codeCommit} c
          where c.repository_id = ${codeBranch.repositoryId} and c.branch = ${codeBranch.name}
            and c.main_at is null and c.left_behind_at is null)`,
        sql`not exists (select 1 from ${codeChange} c
          where c.repository_id = ${codeBranch.repositoryId} and c.branch = ${codeBranch.name})`,
      ),
    )
    .orderBy(asc(codeBranch.firstAt))
    .limit(MOST);

/**
 * Pieces of work with the items that they belong to. What belongs to one that somebody may not see is
 * left out: its branch and its commits say what that item is about.
 */
async function withItems(
  viewer: Viewer,
  rows: CodeRows,
  { works, days }: { works: readonly CodeWork[]; days: (since: number) => number },
): Promise<{ works: ProjectWork[]; hidden: number }> {
  const reader = database();
  const links = await reader
    .select()
    .from(itemCode)
    .where(
      or(
        and(eq(itemCode.kind, "change"), among(itemCode.repositoryId, itemCode.name, rows.changes)),
        and(
          eq(itemCode.kind, "branch"),
          among(itemCode.repositoryId, itemCode.name, rows.branches),
        ),
        and(
          eq(itemCode.kind, "commit"),
          among(
            itemCode.repositoryId,
            itemCode.name,
            rows.commits.map(({ repositoryId, hash }) => ({ repositoryId, name: hash })),
          ),
        ),
      ),
    );
  const byName = grouped(links, ({ repositoryId, kind, name }) =>
    [rows.repositories.get(repositoryId), kind, name].join(" "),
  );
  const items = await namedItems(
    viewer,
    links.map(({ itemId }) => itemId),
  );
  const shown = works.flatMap((work): ProjectWork[] => {
    const of = (kind: string, name: string | null | undefined) =>
      byName.get([work.repository, kind, name].join(" ")) ?? [];
    const linked = [
      ...of("change", work.change?.name),
      ...of("branch", work.branch),
      ...work.commits.flatMap(({ hash }) => of("commit", hash)),
    ];
    const ids = [...new Set(linked.map(({ itemId }) => itemId))];
    if (ids.some((id) => !items.has(id))) return [];
    const own = ids.map((id) => items.get(id)!).filter(({ withdrawn }) => !withdrawn);
    return [
      {
        ...work,
        items: own.map(({ id, key, title, typeId }) => ({ id, key, title, typeId })),
        days: days(sinceOf(rows, work)),
      },
    ];
  });
  return { works: shown, hidden: works.length - shown.length };
}

/** When the first of it was there. */
function sinceOf({ branches, repositories }: CodeRows, work: CodeWork): number {
  const branch = branches.find(
    ({ repositoryId, name }) =>
      name === work.branch && repositories.get(repositoryId) === work.repository,
  );
  const known = [branch?.firstAt, work.change?.openedAt ?? undefined];
  return Math.min(...known.filter((at) => at !== undefined));
}

/** Who commits under addresses that nobody is known by, the most frequent first. */
async function readStrangers(
  reader: Reader,
  repositoryIds: readonly string[],
): Promise<CodeStranger[]> {
  const rows = await reader
    .select({
      mail: codeCommit.authorMail,
      name: max(codeCommit.authorName),
      commits: count(),
    })
    .from(codeCommit)
    .where(
      and(
        inArray(codeCommit.repositoryId, [...repositoryIds]),
        sql`not exists (select 1 from ${person} p where lower(p.email) = ${codeCommit.authorMail})`,
        sql`not exists (select 1 from ${codeAddress} a where a.mail = ${codeCommit.authorMail})`,
      ),
    )
    .groupBy(codeCommit.authorMail)
    .orderBy(desc(count()), asc(codeCommit.authorMail))
    .limit(STRANGERS);
  return rows.map(({ mail, name, commits }) => ({ mail, name: name || mail, commits }));
}
