import { and, inArray, isNull, sql } from "drizzle-orm";
import type { Reader } from "@/db/connection";
import { sprint, timeboxMembership, timeEntry } from "@/db/schema";

/**
 * What each person recorded on what was in some sprints, on the days of those, by sprint and person,
 * in minutes. An item counts for a sprint that it was ever in.
 */
export async function recordedIn(
  reader: Reader,
  sprints: readonly { id: string }[],
): Promise<ReadonlyMap<string, ReadonlyMap<string, number>>> {
  if (sprints.length === 0) return new Map();
  const ids = sprints.map(({ id }) => id);
  const wasIn = sql`exists (select 1 from ${timeboxMembership} where ${timeboxMembership.box} = 'sprint' and ${timeboxMembership.boxId} = ${sprint.id} and ${timeboxMembership.itemId} = ${timeEntry.itemId})`;
  const rows = await reader
    .select({
      sprintId: sprint.id,
      personId: timeEntry.personId,
      minutes: sql<number>`sum(${timeEntry.minutes})::int`,
    })
    .from(sprint)
    .innerJoin(
      timeEntry,
      and(sql`${timeEntry.on} between ${sprint.startsOn} and ${sprint.endsOn}`, wasIn),
    )
    .where(and(inArray(sprint.id, ids), isNull(timeEntry.goneAt)))
    .groupBy(sprint.id, timeEntry.personId);
  const recorded = new Map<string, Map<string, number>>();
  for (const { sprintId, personId, minutes } of rows) {
    const people = recorded.get(sprintId) ?? new Map<string, number>();
    recorded.set(sprintId, people.set(personId, minutes));
  }
  return recorded;
}
