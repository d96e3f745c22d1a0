import { and, eq, isNull, or, sql, type SQL } from "drizzle-orm";
import type { Instant } from "@/core/calendar/instant";
import type { Reader } from "@/db/connection";
import { eventSource, attachedSource, project } from "@/db/schema";

/** Somebody outside who tells of what happens, and for which projects: it is believed about their items. */
export interface Speaker {
  id: string;
  /** The project that it was added to. */
  projectId: string;
  /** That one, and the others that it speaks for. */
  projectIds: readonly string[];
}

/** As a condition on sources: one that speaks for a project, and was not taken out. */
export const speaksFor = (projectId: string): SQL =>
  and(
    isNull(eventSource.removedAt),
    or(
      eq(eventSource.projectId, projectId),
      sql`exists (select 1 from ${attachedSource} a where a.source_id = ${eventSource.id}
        and a.project_id = ${projectId} and a.detached_at is null)`,
    ),
  )!;

/** A project that a source speaks for. */
export interface SpokenFor {
  id: string;
  key: string;
  name: string;
  /** Since when: what was written before is history. */
  since: Instant;
}

/** The projects that a source speaks for, the one that it was added to first. */
export async function projectsOfSource(reader: Reader, sourceId: string): Promise<SpokenFor[]> {
  const columns = { id: project.id, key: project.key, name: project.name };
  const [own, others] = await Promise.all([
    reader
      .select({ ...columns, since: eventSource.createdAt })
      .from(eventSource)
      .innerJoin(project, eq(project.id, eventSource.projectId))
      .where(eq(eventSource.id, sourceId)),
    reader
      .select({ ...columns, since: attachedSource.attachedAt })
      .from(attachedSource)
      .innerJoin(project, eq(project.id, attachedSource.projectId))
      .where(and(eq(attachedSource.sourceId, sourceId), isNull(attachedSource.detachedAt)))
      .orderBy(project.key),
  ]);
  return [...own, ...others];
}
