import { inArray, sql } from "drizzle-orm";
import type { Reader } from "@/db/connection";
import { domainEvent } from "@/db/schema";

/** The number of what happened last in some projects, 0 where nothing has. */
export async function newestEventId(reader: Reader, ...projectIds: string[]): Promise<number> {
  const [{ last }] = await reader
    .select({ last: sql<number>`coalesce(max(${domainEvent.id}), 0)::int` })
    .from(domainEvent)
    .where(inArray(domainEvent.projectId, projectIds));
  return last;
}

/** The same of each of some projects. */
export async function newestEventIds(
  reader: Reader,
  projectIds: readonly string[],
): Promise<(projectId: string) => number> {
  if (projectIds.length === 0) return () => 0;
  const { rows } = await reader.execute<{ id: string; last: number }>(sql`
    select of.id, (select coalesce(max(e.id), 0)::int from ${domainEvent} e
      where e.project_id = of.id) as last
    from unnest(${sql.param([...projectIds])}::text[]) as of (id)`);
  const newest = new Map(rows.map(({ id, last }) => [id, last]));
  return (projectId) => newest.get(projectId) ?? 0;
}
