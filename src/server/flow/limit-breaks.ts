import { and, desc, eq, gte, lt, not, sql, type SQL } from "drizzle-orm";
import type { LimitBreak } from "@/core/board/limit";
import { breaksByWeek } from "@/core/flow/limit-breaks";
import type { LearnView } from "@/core/flow/learn-view";
import type { Period } from "@/core/flow/period";
import type { Reader } from "@/db/connection";
import { item, itemEvent, itemText, person, stay } from "@/db/schema";
import { wasUndone } from "../item/history";
import { keyColumn } from "../item/key";
import type { FlowScope } from "./facts";

/** That the item was in a project when something happened to it. */
const wasIn = (projectId: string): SQL => sql`exists (
  select 1 from ${stay} where ${stay.itemId} = ${itemEvent.itemId} and ${stay.projectId} = ${projectId}
    and ${stay.enteredAt} <= ${itemEvent.at} and (${stay.leftAt} is null or ${stay.leftAt} >= ${itemEvent.at}))`;

/** So many are listed, the latest; how many there were is said in any case. */
const MOST_LISTED = 500;

/**
 * What went beyond limits in a period, and why, by weeks. What was undone did not happen. It is a
 * fact of the project and counts everything; of what somebody may not see it says nothing more.
 * @param hidden items that they may not see
 */
export async function readLimitBreaks(
  reader: Reader,
  { project, typeId, classOfService }: FlowScope,
  period: Period,
  hidden: ReadonlySet<string>,
): Promise<LearnView["breaks"]> {
  const rows = await reader
    .select({
      itemId: item.id,
      key: keyColumn,
      title: item.title,
      at: itemEvent.at,
      limit: itemEvent.new,
      reason: itemText.body,
      by: person.name,
      total: sql<number>`(count(*) over ())::int`,
    })
    .from(itemEvent)
    .innerJoin(item, eq(item.id, itemEvent.itemId))
    .leftJoin(
      itemText,
      and(
        eq(itemText.itemId, itemEvent.itemId),
        eq(itemText.seq, itemEvent.seq),
        eq(itemText.id, itemEvent.noteId),
      ),
    )
    .leftJoin(person, eq(person.id, itemEvent.actorId))
    .where(
      and(
        wasIn(project.id),
        eq(itemEvent.kind, "overrode"),
        gte(itemEvent.at, period.from),
        lt(itemEvent.at, period.to),
        typeId === undefined ? undefined : eq(item.typeId, typeId),
        classOfService === undefined ? undefined : sql`${item.classOfService} = ${classOfService}`,
        not(wasUndone(reader)),
      ),
    )
    .orderBy(desc(itemEvent.at), desc(itemEvent.itemId))
    .limit(MOST_LISTED);
  const breaks = rows.map(({ itemId: id, key, title, at, limit, reason, by }) => {
    const unseen = hidden.has(id);
    return {
      at,
      limit: limit as LimitBreak,
      reason: unseen ? null : reason,
      by: unseen ? null : by,
      item: unseen ? null : { id, key, title },
    };
  });
  return { weeks: breaksByWeek(breaks, project.zone), total: rows[0]?.total ?? 0 };
}
