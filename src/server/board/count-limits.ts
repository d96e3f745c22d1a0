import { and, eq, inArray, isNull, or, sql, type SQL } from "drizzle-orm";
import { withItems, type CountedLimit } from "@/core/board/board-limits";
import type { CountingBy } from "@/core/board/limited";
import type { Instant } from "@/core/calendar/instant";
import type { StateId } from "@/core/workflow/state";
import type { Reader } from "@/db/connection";
import { item, itemType, project, state } from "@/db/schema";
import { givenArray, namedSql } from "@/db/statement";
import { projectAsker } from "../condition/asker";
import { compileCondition } from "../condition/compile";
import type { LoadedLimit } from "./covering-limits";

/** How much counts against a limit, and how many of it have no size of their own. */
export interface LimitCount {
  count: number;
  unsized: number;
}

interface Home {
  id: string;
  zone: string;
  /** What an item without a size counts for. */
  defaultSize: number;
}

/**
 * What counts against some limits: a fact of the project, the same for everybody, whatever they may
 * see. As `core/board/limited.ts` says it.
 */
export async function countLimits({
  reader,
  project: home,
  limits,
  now,
}: {
  reader: Reader;
  project: Home;
  limits: readonly LoadedLimit[];
  now: Instant;
}): Promise<ReadonlyMap<string, LimitCount>> {
  const counts = new Map<string, LimitCount>();
  for (const limit of limits) counts.set(limit.id, await countOne(reader, home, limit, now));
  return counts;
}

async function countOne(
  reader: Reader,
  home: Home,
  limit: LoadedLimit,
  now: Instant,
): Promise<LimitCount> {
  if (limit.scope !== null) return countInScope(reader, home, limit, now);
  const { ownerKind, ownerId, unit, level, field, value, stateIds } = limit;
  const how = [unit, level, field, value];
  const [row] =
    ownerKind === "person"
      ? await COUNT_HANDS(reader, [...how, ownerId, limit.workedOnly])
      : await COUNT_PLACE(reader, [
          ...how,
          stateIds,
          ownerKind === "board",
          limit.expeditePasses,
          home.defaultSize,
        ]);
  return row;
}

/** Whether an item has the value that a limit counts only. */
const NARROWED = `($3::text is null or $4::text = case $3::text
  when 'classOfService' then i.class_of_service when 'typeId' then i.type_id
  when 'teamId' then i.team_id when 'assigneeId' then i.assignee_id
  when 'priority' then i.priority when 'origin' then i.origin end)`;

const IN_PROGRESS = "i.state_kind in ('waiting', 'working')";

const SUMMED = (defaultSize: string) => `
  select (count(*) filter (where i.estimate is null))::int as unsized,
    (case $1::text when 'items' then count(*)
      else coalesce(sum(coalesce(i.estimate, ${defaultSize})), 0) end)::float8 as count`;

/** A limit on a state, a column or a board that counts whatever is there. */
const COUNT_PLACE = namedSql<LimitCount>(
  "count what is where a limit is",
  `${SUMMED("$8::float8")}
  from item i
  join item_type t on t.project_id = i.project_id and t.id = i.type_id
  where i.state_id = any(${givenArray("$5::text[]")}) and i.withdrawn_at is null and t.level = $2::int
    and (not $6::boolean or ${IN_PROGRESS})
    and (not $7::boolean or i.class_of_service <> 'expedite') and ${NARROWED}`,
);

/** A limit of a person: what is in their hands in any project. */
const COUNT_HANDS = namedSql<LimitCount>(
  "count what is in somebody's hands",
  `${SUMMED("p.default_size")}
  from item i
  join item_type t on t.project_id = i.project_id and t.id = i.type_id
  join state s on s.id = i.state_id
  join project p on p.id = i.project_id
  where (i.assignee_id = $5::text or i.reviewer_id = $5::text) and i.withdrawn_at is null
    and ${IN_PROGRESS} and t.level = $2::int
    and case when s.by_reviewer then i.reviewer_id else i.assignee_id end = $5::text
    and (not $6::boolean or i.state_kind = 'working') and ${NARROWED}`,
);

/** A limit of a board that shows only some items counts those alone. */
async function countInScope(
  reader: Reader,
  home: Home,
  limit: LoadedLimit,
  now: Instant,
): Promise<LimitCount> {
  const scope = compileCondition(limit.scope!, await projectAsker(reader, home, now));
  const among = { states: limit.stateIds, people: [], only: scope };
  return heldBy(limit, await countedItems(reader, among));
}

/** What some items count for against a limit, as the core weighs them. */
export const heldBy = (
  { scope: _, ...limit }: LoadedLimit,
  items: readonly CountedRow[],
): CountedLimit =>
  byProject(items).reduce((held, own) => withItems(held, own, countingOf(own)), {
    ...limit,
    count: 0,
    unsized: 0,
  });

function byProject(items: readonly CountedRow[]): CountedRow[][] {
  const projects = new Map<string, CountedRow[]>();
  for (const row of items) {
    const own = projects.get(row.projectId);
    if (own) own.push(row);
    else projects.set(row.projectId, [row]);
  }
  return [...projects.values()];
}

/** What the items of one project say of how they are counted. */
function countingOf(items: readonly CountedRow[]): CountingBy {
  const levels = new Map(items.map(({ typeId, level }) => [typeId, level]));
  return {
    levelOf: (typeId) => levels.get(typeId),
    byReviewer: new Set(items.flatMap((row) => (row.byReviewer ? [row.stateId] : []))),
    defaultSize: items[0].defaultSize,
  };
}

const isInProgress = inArray(item.stateKind, ["waiting", "working"]);

/** What of items counting needs, of those that may count against some limits. */
export const countedItems = (
  reader: Reader,
  {
    states,
    people,
    only,
  }: { states: readonly StateId[]; people: readonly string[]; only: SQL | undefined },
  { seen = sql`true`, inScope = sql`true` }: { seen?: SQL; inScope?: SQL } = {},
) =>
  reader
    .select({
      stateId: item.stateId,
      stateKind: item.stateKind,
      estimate: item.estimate,
      reviewerId: item.reviewerId,
      assigneeId: item.assigneeId,
      classOfService: item.classOfService,
      typeId: item.typeId,
      teamId: item.teamId,
      priority: item.priority,
      origin: item.origin,
      projectId: item.projectId,
      level: itemType.level,
      byReviewer: state.byReviewer,
      defaultSize: project.defaultSize,
      seen: sql<boolean>`coalesce(${seen}, false)`,
      inScope: sql<boolean>`coalesce(${inScope}, false)`,
    })
    .from(item)
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .innerJoin(state, eq(state.id, item.stateId))
    .innerJoin(project, eq(project.id, item.projectId))
    .where(
      and(
        isNull(item.withdrawnAt),
        or(
          sql`${item.stateId} = any(${sql.param([...states])}::text[])`,
          and(
            isInProgress,
            or(
              sql`${item.assigneeId} = any(${sql.param([...people])}::text[])`,
              sql`${item.reviewerId} = any(${sql.param([...people])}::text[])`,
            ),
          ),
        ),
        only,
      ),
    );

export type CountedRow = Awaited<ReturnType<typeof countedItems>>[number];
