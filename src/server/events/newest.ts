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
