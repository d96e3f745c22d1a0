import { and, eq } from "drizzle-orm";
import { v7 as newId } from "uuid";
import type { Instant } from "@/core/calendar/instant";
import type { Reader, Transaction } from "@/db/connection";
import { codeRepository, eventSource } from "@/db/schema";

/** A repository that a source speaks of, for the first time or again; its row is locked. */
export async function repositoryOf(
  tx: Transaction,
  { sourceId, name, now }: { sourceId: string; name: string; now: Instant },
): Promise<string> {
  await tx
    .insert(codeRepository)
    .values({ id: newId(), sourceId, name, firstHeardAt: now })
    .onConflictDoNothing();
  // One event of a repository after the other: what an event means follows from those before it.
  const [{ id }] = await tx
    .select({ id: codeRepository.id })
    .from(codeRepository)
    .where(and(eq(codeRepository.sourceId, sourceId), eq(codeRepository.name, name)))
    .for("update");
  return id;
}

/** The repositories that a project hears of. */
export const repositoriesOf = (reader: Reader, projectId: string) =>
  reader
    .select({ id: codeRepository.id, name: codeRepository.name })
    .from(codeRepository)
    .innerJoin(eventSource, eq(eventSource.id, codeRepository.sourceId))
    .where(eq(eventSource.projectId, projectId));
