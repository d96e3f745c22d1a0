import { and, desc, eq, gte, inArray, isNull, lt, sql } from "drizzle-orm";
import type { Instant } from "@/core/calendar/instant";
import type { Transaction } from "@/db/connection";
import { codeCommit } from "@/db/schema";
import { namedQuery } from "@/db/statement";

/*
 * Commits carry their parents, so which one contains which is known without asking the code host.
 * Each walk goes from a commit towards its parents, and stops where it has been.
 */

export type CommitRow = typeof codeCommit.$inferSelect;

/**
 * Marks what the main branch contains from now on: a commit, and all before it that were not there
 * yet.
 * @returns those that are new on main, in the order in which they were written
 */
export async function markOnMain(
  tx: Transaction,
  repositoryId: string,
  head: string,
  at: Instant,
): Promise<CommitRow[]> {
  const { rows } = await tx.execute<{ hash: string }>(sql`
    with recursive reached as (
      select c.hash, c.parents from ${codeCommit} c
      where c.repository_id = ${repositoryId} and c.hash = ${head} and c.main_at is null
      union
      select c.hash, c.parents from reached r
      join ${codeCommit} c on c.repository_id = ${repositoryId} and c.hash = any(r.parents)
      where c.main_at is null
    )
    select hash from reached`);
  if (rows.length === 0) return [];
  const marked = await tx
    .update(codeCommit)
    .set({ mainAt: at, leftBehindAt: null })
    .where(
      and(
        eq(codeCommit.repositoryId, repositoryId),
        inArray(
          codeCommit.hash,
          rows.map(({ hash }) => hash),
        ),
      ),
    )
    .returning();
  return marked.toSorted((a, b) => a.authoredAt - b.authoredAt || (a.hash < b.hash ? -1 : 1));
}

/** Marks what a branch does not contain any more since it was pushed anew from another commit. */
export async function markLeftBehind(
  tx: Transaction,
  repositoryId: string,
  { branch, head, at }: { branch: string; head: string; at: Instant },
): Promise<void> {
  await tx.execute(sql`
    with recursive reached as (
      select c.hash, c.parents from ${codeCommit} c
      where c.repository_id = ${repositoryId} and c.hash = ${head}
      union
      select c.hash, c.parents from reached r
      join ${codeCommit} c on c.repository_id = ${repositoryId} and c.hash = any(r.parents)
      where c.main_at is null
    )
    update ${codeCommit} set left_behind_at = ${new Date(at).toISOString()}
    where repository_id = ${repositoryId} and branch = ${branch} and main_at is null
      and left_behind_at is null and hash not in (select hash from reached)`);
}

const BEGINNING = namedQuery("a commit by its beginning", (reader) =>
  reader
    .select({ hash: codeCommit.hash })
    .from(codeCommit)
    .where(
      and(
        eq(codeCommit.repositoryId, sql.placeholder("repositoryId")),
        gte(codeCommit.hash, sql.placeholder("from")),
        lt(codeCommit.hash, sql.placeholder("to")),
      ),
    )
    .orderBy(desc(codeCommit.pushedAt))
    .limit(1),
);

/** The whole hash of a commit that is named by its beginning, as far as it is known. */
export async function wholeHash(
  tx: Transaction,
  repositoryId: string,
  said: string,
): Promise<string> {
  const [found] = await BEGINNING(tx, { repositoryId, from: said, to: `${said}g` });
  return found?.hash ?? said;
}

/** What a commit took back. */
export interface TakenBack {
  /** The commits that its message calls. */
  called: CommitRow[];
  /** All that counts for something else now: what merges brought, and what is there again. */
  hashes: string[];
}

/**
 * Finds commits by what a message calls them, and notes that another took them back; with a merge, all
 * that it brought to main.
 * @param called whole hashes, or their beginnings
 */
export async function markReverted(
  tx: Transaction,
  repositoryId: string,
  called: readonly string[],
  by: string,
): Promise<TakenBack> {
  const found: CommitRow[] = [];
  for (const hash of called)
    found.push(
      ...(await tx
        .select()
        .from(codeCommit)
        .where(
          and(
            eq(codeCommit.repositoryId, repositoryId),
            sql`starts_with(${codeCommit.hash}, ${hash})`,
            isNull(codeCommit.revertedBy),
          ),
        )),
    );
  if (found.length === 0) return { called: [], hashes: [] };
  const brought = await Promise.all(found.map((commit) => broughtBy(tx, repositoryId, commit)));
  const hashes = [...found.map(({ hash }) => hash), ...brought.flat()];
  await tx
    .update(codeCommit)
    .set({ revertedBy: by })
    .where(
      and(
        eq(codeCommit.repositoryId, repositoryId),
        inArray(codeCommit.hash, hashes),
        isNull(codeCommit.revertedBy),
      ),
    );
  // What took something back, and is taken back itself, takes it back no more.
  const again = await tx
    .update(codeCommit)
    .set({ revertedBy: null })
    .where(and(eq(codeCommit.repositoryId, repositoryId), inArray(codeCommit.revertedBy, hashes)))
    .returning({ hash: codeCommit.hash });
  return { called: found, hashes: [...hashes, ...again.map(({ hash }) => hash)] };
}

/** What a merge brought to main with it: what its other parents have, and its first one has not. */
async function broughtBy(
  tx: Transaction,
  repositoryId: string,
  { hash, parents, mainAt }: CommitRow,
): Promise<string[]> {
  if (parents.length < 2 || mainAt === null) return [];
  // All of it came to main with the merge, so the walks need not go farther.
  const came = sql`(select m.main_at from ${codeCommit} m
    where m.repository_id = ${repositoryId} and m.hash = ${hash})`;
  const [first, ...others] = parents;
  const walk = (name: string, from: readonly string[]) => sql`
    ${sql.raw(name)} as (
      select c.hash, c.parents from ${codeCommit} c
      where c.repository_id = ${repositoryId} and c.main_at = ${came}
        and c.hash = any(${sql.param([...from])}::text[])
      union
      select c.hash, c.parents from ${sql.raw(name)} r
      join ${codeCommit} c on c.repository_id = ${repositoryId} and c.hash = any(r.parents)
      where c.main_at = ${came}
    )`;
  const { rows } = await tx.execute<{ hash: string }>(sql`
    with recursive ${walk("brought", others)}, ${walk("before", [first])}
    select hash from brought except select hash from before`);
  return rows.map((row) => row.hash);
}
