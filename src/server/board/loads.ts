import { UNIT_LEVEL } from "@/core/item/item-type";
import { and, eq, inArray, isNull, or, sql } from "drizzle-orm";
import { limitOfPerson, type CountedLimit } from "@/core/board/board-limits";
import { awayWords } from "@/core/alerts/hours";
import type { Instant } from "@/core/calendar/instant";
import { loadOf, type LoadNow } from "@/core/board/load";
import type { Reader } from "@/db/connection";
import { item, itemType, membership, state } from "@/db/schema";
import { hoursOf } from "../alerts/hours";

/**
 * How much each person of a project has in their hands, over all projects, and how much they may: a
 * fact of the project, the same for everybody, whatever they may see.
 */
export async function readLoads(
  reader: Reader,
  projectId: string,
  limits: readonly CountedLimit[],
  now: Instant,
): Promise<Record<string, LoadNow>> {
  const members = await reader
    .select({ personId: membership.personId, trades: membership.trades })
    .from(membership)
    .where(eq(membership.projectId, projectId));
  const ids = members.map(({ personId }) => personId);
  if (ids.length === 0) return {};
  const hands = sql<string>`case when ${state.byReviewer} then ${item.reviewerId} else ${item.assigneeId} end`;
  const rows = await reader
    .select({ personId: hands, items: sql<number>`count(*)::int` })
    .from(item)
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .innerJoin(state, eq(state.id, item.stateId))
    .where(
      and(
        isNull(item.withdrawnAt),
        inArray(item.stateKind, ["waiting", "working"]),
        eq(itemType.level, UNIT_LEVEL),
        or(inArray(item.assigneeId, ids), inArray(item.reviewerId, ids)),
        inArray(hands, ids),
      ),
    )
    .groupBy(hands);
  const hours = await hoursOf(reader, ids);
  const held = new Map(rows.map(({ personId, items }) => [personId, items]));
  return Object.fromEntries(
    members.map(({ personId: id, trades }) => {
      const load = loadOf(held.get(id) ?? 0, limitOfPerson(limits, id));
      return [id, { ...load, away: awayWords(hours(id), now), trades }];
    }),
  );
}
