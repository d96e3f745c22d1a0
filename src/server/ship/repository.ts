import { and, eq, inArray, or, sql, type SQL } from "drizzle-orm";
import { v7 as newId } from "uuid";
import type { Reader, Transaction } from "@/db/connection";
import { codeBranch, codeRepository, eventSource } from "@/db/schema";
import { speaksFor, type Speaker } from "../events/speakers";
import { forget, readOnce, type Post } from "./taking";

/** Under which a post remembers the repositories that it can be about; forgotten when one is met. */
export const HEARD = "repositories heard of";

/**
 * A repository that a code host speaks of, for the first time or again; its row is locked. Where a
 * pipeline spoke of it first, it is the host's from now on.
 */
export const repositoryOf = (post: Post, name: string): Promise<string> =>
  readOnce(post, `repository of ${name}`, () => hostOf(post, name));

async function hostOf(post: Post, name: string): Promise<string> {
  const { tx, source } = post;
  forget(post, HEARD);
  const own = await lockedOf(tx, source, name);
  if (own !== null) return own;
  const withoutCode = sql`not exists (select 1 from ${codeBranch} b
    where b.repository_id = ${codeRepository.id})`;
  const adopted = await lockedInProjects(tx, source, { name, which: withoutCode });
  if (adopted === null) return make(post, name);
  const mine = { sourceId: source.id };
  await tx.update(codeRepository).set(mine).where(eq(codeRepository.id, adopted));
  return adopted;
}

/**
 * A repository that a pipeline speaks of; its row is locked. The code host of the project may be
 * another source: what has the same name is the same one.
 */
export const repositoryHeard = (post: Post, name: string): Promise<string> =>
  readOnce(post, `repository named ${name}`, () => namedIn(post, name));

async function namedIn(post: Post, name: string): Promise<string> {
  const { tx, source } = post;
  forget(post, HEARD);
  const own = await lockedOf(tx, source, name);
  if (own !== null) return own;
  const known = await lockedInProjects(tx, source, { name });
  return known ?? make(post, name);
}

async function make({ tx, source, now }: Post, name: string): Promise<string> {
  await tx
    .insert(codeRepository)
    .values({ id: newId(), sourceId: source.id, name, firstHeardAt: now })
    .onConflictDoNothing();
  return (await lockedOf(tx, source, name))!;
}

/**
 * Locks the repositories of a source that a post is about, in the order of their names, so that two
 * posts do not wait for each other.
 */
export async function lockRepositories(
  { tx, source }: Post,
  names: readonly string[],
): Promise<void> {
  if (names.length < 2) return;
  await tx
    .select({ id: codeRepository.id })
    .from(codeRepository)
    .where(and(eq(codeRepository.sourceId, source.id), inArray(codeRepository.name, [...names])))
    .orderBy(codeRepository.name)
    .for("update");
}

/** One event of a repository after the other: what an event means follows from those before it. */
async function lockedOf(tx: Transaction, source: Speaker, name: string): Promise<string | null> {
  const [found] = await tx
    .select({ id: codeRepository.id })
    .from(codeRepository)
    .where(and(eq(codeRepository.sourceId, source.id), eq(codeRepository.name, name)))
    .for("update");
  return found?.id ?? null;
}

async function lockedInProjects(
  tx: Transaction,
  { projectIds }: Speaker,
  { name, which }: { name: string; which?: SQL },
): Promise<string | null> {
  const [found] = await tx
    .select({ id: codeRepository.id })
    .from(codeRepository)
    .innerJoin(eventSource, eq(eventSource.id, codeRepository.sourceId))
    .where(and(or(...projectIds.map(speaksFor)), eq(codeRepository.name, name), which))
    .orderBy(codeRepository.firstHeardAt)
    .limit(1)
    .for("update", { of: codeRepository });
  return found?.id ?? null;
}

/** The repositories that a project hears of, or did from a source that speaks still. */
export const repositoriesOf = (reader: Reader, projectId: string) =>
  reader
    .select({ id: codeRepository.id, name: codeRepository.name })
    .from(codeRepository)
    .innerJoin(eventSource, eq(eventSource.id, codeRepository.sourceId))
    .where(speaksFor(projectId));
