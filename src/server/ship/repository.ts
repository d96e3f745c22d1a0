import { and, eq, or, sql, type SQL } from "drizzle-orm";
import { v7 as newId } from "uuid";
import type { Instant } from "@/core/calendar/instant";
import type { Reader, Transaction } from "@/db/connection";
import { codeBranch, codeRepository, eventSource } from "@/db/schema";
import { speaksFor, type Speaker } from "../events/speakers";

interface Named {
  name: string;
  now: Instant;
}

/**
 * A repository that a code host speaks of, for the first time or again; its row is locked. Where a
 * pipeline spoke of it first, it is the host's from now on.
 */
export async function repositoryOf(
  tx: Transaction,
  source: Speaker,
  { name, now }: Named,
): Promise<string> {
  const own = await lockedOf(tx, source, name);
  if (own !== null) return own;
  const withoutCode = sql`not exists (select 1 from ${codeBranch} b
    where b.repository_id = ${codeRepository.id})`;
  const adopted = await lockedInProjects(tx, source, { name, which: withoutCode });
  if (adopted === null) return make(tx, source, { name, now });
  const mine = { sourceId: source.id };
  await tx.update(codeRepository).set(mine).where(eq(codeRepository.id, adopted));
  return adopted;
}

/**
 * A repository that a pipeline speaks of; its row is locked. The code host of the project may be
 * another source: what has the same name is the same one.
 */
export async function repositoryHeard(
  tx: Transaction,
  source: Speaker,
  { name, now }: Named,
): Promise<string> {
  const own = await lockedOf(tx, source, name);
  if (own !== null) return own;
  const known = await lockedInProjects(tx, source, { name });
  return known ?? make(tx, source, { name, now });
}

async function make(tx: Transaction, source: Speaker, { name, now }: Named): Promise<string> {
  await tx
    .insert(codeRepository)
    .values({ id: newId(), sourceId: source.id, name, firstHeardAt: now })
    .onConflictDoNothing();
  return (await lockedOf(tx, source, name))!;
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
