import { and, desc, eq, isNull, ne, sql } from "drizzle-orm";
import type { Instant } from "@/core/calendar/instant";
import type { Reader, Transaction } from "@/db/connection";
import { codeBuild, commitStanding, deployment } from "@/db/schema";
import { namedQuery, namedSql } from "@/db/statement";
import { wholeHash } from "./commit-graph";

/*
 * Which commits stand where. It is kept as deployments come, so that nobody walks through the whole
 * history of a repository to look at it: an environment has what was deployed and all that came before.
 */

/** A part of a repository on an environment. */
export interface StandingPlace {
  repositoryId: string;
  /** In small letters. */
  environment: string;
  part: string;
}

/** What a deployment changed. */
export interface Moved {
  /** Commits that are there now and were not, or are no more and were. */
  hashes: string[];
  /** Whether all that it contains is known. */
  complete: boolean;
}

const NOTHING_KNOWN: Moved = { hashes: [], complete: false };

const isPlace = ({ repositoryId, environment, part }: StandingPlace) =>
  and(
    eq(commitStanding.repositoryId, repositoryId),
    eq(commitStanding.environment, environment),
    eq(commitStanding.part, part),
  );

const LATEST = namedQuery("the latest deployment of a place", (reader) =>
  reader
    .select()
    .from(deployment)
    .where(
      and(
        eq(deployment.repositoryId, sql.placeholder("repositoryId")),
        eq(deployment.environment, sql.placeholder("environment")),
        eq(deployment.part, sql.placeholder("part")),
        ne(deployment.outcome, "failed"),
      ),
    )
    .orderBy(desc(deployment.at), desc(deployment.id))
    .limit(1),
);

/** The deployment that a place has now. */
export async function latestAt(
  reader: Reader,
  { repositoryId, environment, part }: StandingPlace,
): Promise<typeof deployment.$inferSelect | null> {
  const [latest] = await LATEST(reader, { repositoryId, environment, part });
  return latest ?? null;
}

/**
 * Puts a commit with all before it in a place; what an older build does not have leaves it.
 * @param after the commit that was deployed there before; null where nothing was
 */
export async function standAt(
  tx: Transaction,
  place: StandingPlace,
  { commit, at, after }: { commit: string; at: Instant; after: string | null },
): Promise<Moved> {
  const met = await reachOf(tx, place, commit, NEW_THERE);
  if (met.length === 0) return NOTHING_KNOWN;
  // What stood there last is among what came before: then nothing leaves.
  const onward = after !== null && met.some(({ hash }) => hash === after);
  const kept = onward ? [] : await reachOf(tx, place, commit, EVERYTHING);
  const gone = onward ? [] : await leave(tx, place, { kept, at });
  const fresh = met.filter(({ there }) => !there);
  await arrive(tx, place, { hashes: fresh.map(({ hash }) => hash), at });
  return { hashes: [...fresh.map(({ hash }) => hash), ...gone], complete: isWhole(met) };
}

/** What would come to a place, and leave it, if a commit were deployed there. */
export async function differenceTo(
  reader: Reader,
  place: StandingPlace,
  commit: string,
): Promise<{ come: string[]; go: string[] }> {
  const met = await reachOf(reader, place, commit, EVERYTHING);
  const reached = new Set(met.map(({ hash }) => hash));
  const there = await reader
    .select({ hash: commitStanding.hash })
    .from(commitStanding)
    .where(and(isPlace(place), isNull(commitStanding.goneAt)));
  return {
    come: met.filter((one) => !one.there).map(({ hash }) => hash),
    go: there.map(({ hash }) => hash).filter((hash) => !reached.has(hash)),
  };
}

/** Takes all away from a place. */
export const standNowhere = (tx: Transaction, place: StandingPlace, at: Instant) =>
  leave(tx, place, { kept: [], at });

interface Met {
  [column: string]: unknown;
  hash: string;
  parents: string[];
  there: boolean;
}

/** Whether every parent of what is new is known. */
function isWhole(met: readonly Met[]): boolean {
  const known = new Set(met.map(({ hash }) => hash));
  return met.every(({ there, parents }) => there || parents.every((one) => known.has(one)));
}

/** As it stands in a walk: whether a place has a commit. */
const THERE = `exists (select 1 from commit_standing s
  where s.repository_id = $1 and s.environment = $2 and s.part = $3 and s.hash = c.hash
    and s.gone_at is null)`;

/** Walks from a commit towards its parents, as far as it is said. */
const walk = (name: string, goesOn: string) =>
  namedSql<Met>(
    name,
    `with recursive reached as (
       select c.hash, c.parents, ${THERE} as there from code_commit c
       where c.repository_id = $1 and c.hash = $4
       union
       select c.hash, c.parents, ${THERE} from reached r
       join code_commit c on c.repository_id = $1 and c.hash = any(r.parents)
       ${goesOn}
     )
     select hash, parents, there from reached`,
  );

/** A walk goes on behind what a place does not have yet, or behind everything. */
const NEW_THERE = walk("commits that a place does not have", "where not r.there");
const EVERYTHING = walk("a commit and all before it", "");

/** The commits from one on towards its parents. */
const reachOf = (
  tx: Reader,
  { repositoryId, environment, part }: StandingPlace,
  commit: string,
  walked: ReturnType<typeof walk>,
): Promise<Met[]> => walked(tx, [repositoryId, environment, part, commit]);

async function arrive(
  tx: Transaction,
  { repositoryId, environment, part }: StandingPlace,
  { hashes, at }: { hashes: readonly string[]; at: Instant },
): Promise<void> {
  if (hashes.length === 0) return;
  const since = sql`${new Date(at).toISOString()}::timestamptz`;
  await tx.execute(sql`
    insert into ${commitStanding} (repository_id, environment, part, hash, since, first_at)
    select ${repositoryId}::uuid, ${environment}, ${part}, hash, ${since}, ${since}
    from unnest(${sql.param([...hashes])}::text[]) as hash
    on conflict (repository_id, environment, part, hash)
      do update set since = excluded.since, gone_at = null`);
}

/** All that is not kept leaves a place. @returns what left */
async function leave(
  tx: Transaction,
  place: StandingPlace,
  { kept, at }: { kept: readonly Met[]; at: Instant },
): Promise<string[]> {
  const hashes = kept.map(({ hash }) => hash);
  const rows = await tx
    .update(commitStanding)
    .set({ goneAt: at })
    .where(
      and(
        isPlace(place),
        isNull(commitStanding.goneAt),
        sql`not (${commitStanding.hash} = any(${sql.param(hashes)}::text[]))`,
      ),
    )
    .returning({ hash: commitStanding.hash });
  return rows.map(({ hash }) => hash);
}

/**
 * Goes on from deployments of which not all was known, now that more of their repository is: a
 * pipeline may tell of a build before the code host tells of its commits.
 * @returns the commits that came there, or left
 */
export async function standOn(tx: Transaction, repositoryId: string): Promise<string[]> {
  const waiting = await tx
    .select()
    .from(deployment)
    .where(and(eq(deployment.repositoryId, repositoryId), eq(deployment.complete, false)))
    .orderBy(deployment.at);
  const moved: string[] = [];
  for (const { id, environment, part, build, commit, at } of waiting) {
    const place = { repositoryId, environment, part };
    const latest = await latestAt(tx, place);
    const said = commit ?? (await commitOfBuild(tx, repositoryId, build));
    const hash = said === null ? null : await wholeHash(tx, repositoryId, said);
    const { hashes, complete } = await goOn(tx, place, { hash, at, current: latest?.id === id });
    moved.push(...hashes);
    await tx.update(deployment).set({ complete, commit: hash }).where(eq(deployment.id, id));
  }
  return moved;
}

/** Walks the whole way anew: what was met the last time may have parents that are known only now. */
async function goOn(
  tx: Transaction,
  place: StandingPlace,
  { hash, at, current }: { hash: string | null; at: Instant; current: boolean },
): Promise<Moved> {
  // What another one followed is looked at no more.
  if (!current) return { hashes: [], complete: true };
  if (hash === null) return NOTHING_KNOWN;
  const met = await reachOf(tx, place, hash, EVERYTHING);
  if (met.length === 0) return NOTHING_KNOWN;
  const gone = await leave(tx, place, { kept: met, at });
  const fresh = met.filter(({ there }) => !there).map((one) => one.hash);
  await arrive(tx, place, { hashes: fresh, at });
  // Of all that was met, also of what was there before.
  const complete = isWhole(met.map((one) => ({ ...one, there: false })));
  return { hashes: [...fresh, ...gone], complete };
}

/** Which commit a build was made of; null where nobody said. */
export async function commitOfBuild(
  reader: Reader,
  repositoryId: string,
  build: string | null,
): Promise<string | null> {
  if (build === null) return null;
  const [found] = await reader
    .select({ commit: codeBuild.commit })
    .from(codeBuild)
    .where(and(eq(codeBuild.repositoryId, repositoryId), eq(codeBuild.name, build)));
  return found?.commit ?? null;
}
