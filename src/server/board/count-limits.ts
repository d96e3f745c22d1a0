import { and, eq, inArray, isNull, sql, type SQL } from "drizzle-orm";
import type { CoveringLimit } from "@/core/board/limited";
import type { Condition } from "@/core/condition/condition";
import type { Instant } from "@/core/calendar/instant";
import type { Reader } from "@/db/connection";
import { item, itemType, project, state } from "@/db/schema";
import { projectAsker } from "../condition/asker";
import { compileCondition } from "../condition/compile";
import type { LoadedLimit } from "./covering-limits";

/** How much counts against a limit, and how many of it have no size of their own. */
export interface LimitCount {
  count: number;
  unsized: number;
}

interface Zoned {
  id: string;
  zone: string;
}

/**
 * What counts against some limits: a fact of the project, the same for everybody, whatever they may
 * see. As `core/board/limited.ts` says it.
 * @param only which items are counted; all where it is left out
 */
export async function countLimits({
  reader,
  project: home,
  limits,
  now,
  only,
}: {
  reader: Reader;
  project: Zoned;
  limits: readonly LoadedLimit[];
  now: Instant;
  only?: SQL;
}): Promise<ReadonlyMap<string, LimitCount>> {
  if (limits.length === 0) return new Map();
  const inScope = await scopesOf(reader, home, limits, now);
  const each = limits.map(
    (limit) => sql`
      select ${limit.id}::text as id, ${amountOf(limit)} as count,
        (count(*) filter (where ${item.estimate} is null))::int as unsized
      from ${item}
      join ${itemType} on ${itemType.projectId} = ${item.projectId} and ${itemType.id} = ${item.typeId}
      join ${project} on ${project.id} = ${item.projectId}
      join ${state} on ${state.id} = ${item.stateId}
      where ${and(countedBy(limit), limit.scope ? inScope.get(limit.scope) : undefined, only)}`,
  );
  const { rows } = await reader.execute(sql.join(each, sql` union all `));
  const counted = rows as unknown as ({ id: string } & LimitCount)[];
  return new Map(counted.map(({ id, ...count }) => [id, count]));
}

/** The scopes of boards as conditions on items, each made once. */
async function scopesOf(
  reader: Reader,
  home: Zoned,
  limits: readonly LoadedLimit[],
  now: Instant,
): Promise<ReadonlyMap<Condition, SQL>> {
  const scopes = limits.flatMap(({ scope }) => scope ?? []);
  if (scopes.length === 0) return new Map();
  const asker = await projectAsker(reader, home, now);
  return new Map(scopes.map((scope) => [scope, compileCondition(scope, asker)]));
}

const amountOf = ({ unit }: CoveringLimit): SQL =>
  unit === "items"
    ? sql`count(*)::float8`
    : sql`coalesce(sum(coalesce(${item.estimate}, ${project.defaultSize})), 0)::float8`;

/** Whose hands an item is in. */
const inHands = sql`case when ${state.byReviewer} then ${item.reviewerId} else ${item.assigneeId} end`;

const inProgress = inArray(item.stateKind, ["waiting", "working"]);

/** Which items count against a limit, as a condition; without its board's scope. */
function countedBy(limit: CoveringLimit): SQL | undefined {
  const { ownerKind, ownerId, field, value, stateIds } = limit;
  const place =
    ownerKind === "person"
      ? and(inProgress, sql`${inHands} = ${ownerId}`)
      : sql`${item.stateId} = any(${sql.param([...stateIds])}::text[])`;
  return and(
    isNull(item.withdrawnAt),
    eq(itemType.level, limit.level),
    place,
    ownerKind === "board" ? inProgress : undefined,
    ownerKind === "person" && limit.workedOnly ? eq(item.stateKind, "working") : undefined,
    limit.expeditePasses ? sql`${item.classOfService} <> 'expedite'` : undefined,
    field === null ? undefined : sql`${item[field]} = ${value}`,
  );
}
