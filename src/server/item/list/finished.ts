import { and, asc, desc, not, sql, type SQL } from "drizzle-orm";
import { finishedGroups, joinedGroups, type FinishedGroup } from "@/core/board/finished";
import type { Days, Instant } from "@/core/calendar/instant";
import type { FactName } from "@/core/condition/facts";
import { amountOf } from "@/core/item/amount";
import type { ClassOfService } from "@/core/item/fields";
import type { OwnField } from "@/core/item/own-field";
import type { StateId } from "@/core/workflow/state";
import type { Reader } from "@/db/connection";
import { item } from "@/db/schema";

interface Counted {
  zone: string;
  now: Instant;
  /** What is added up of them. */
  sum: FactName | null;
  ownFields: readonly OwnField[];
}

/** What the database can add up as it stands; every other number is worked out by the core. */
const ADDED: Partial<Record<FactName, SQL>> = {
  estimate: sql`${item.estimate}`,
  firstEstimate: sql`${item.firstEstimate}`,
  spentHours: sql`(${item.spentMinutes} / 60.0::float8)`,
  remainingHours: sql`${item.remainingHours}`,
};

/**
 * How many finished items there are, by what a board tells apart, how long they took, and what they
 * come to. Those whose clock ran once are counted by the database; the others, and where something is
 * added up that only the core works out all of them, as the core counts them.
 */
export async function readFinishedGroups(
  reader: Reader,
  where: SQL | undefined,
  counted: Counted,
): Promise<FinishedGroup[]> {
  const { sum, zone, now, ownFields } = counted;
  const added = sum === null ? sql`0` : ADDED[sum];
  const counting = {
    zone,
    now,
    amountOf: (row: FinishedRow) => amountOf(sum, row, ownFields),
  };
  if (added === undefined) return finishedGroups(await finishedRows(reader, where), counting);
  const [once, others] = await Promise.all([
    groupsOfOnce(reader, and(where, RAN_ONCE), { added, zone }),
    finishedRows(reader, and(where, not(RAN_ONCE))),
  ]);
  return joinedGroups([...once, ...finishedGroups(others, counting)]);
}

const RAN_ONCE = sql`jsonb_array_length(${item.clock}) = 1`;

/** As `deliveredInDays` in the core, of a clock that ran once: it counts until the delivery. */
function tookDays(zone: string): SQL {
  const dayOf = (ms: SQL) => sql`(to_timestamp(${ms} / 1000.0) at time zone ${zone}::text)::date`;
  const first = sql`(${item.clock} -> 0 ->> 'from')::float8`;
  const delivered = sql`round(extract(epoch from ${item.deliveredAt}) * 1000)::float8`;
  const last = sql`least(coalesce((${item.clock} -> 0 ->> 'to')::float8, ${delivered}), ${delivered})`;
  return sql`(case when ${item.deliveredAt} = ${item.finishedAt} then ${dayOf(last)} - ${dayOf(first)} + 1 end)`;
}

async function groupsOfOnce(
  reader: Reader,
  where: SQL | undefined,
  { added, zone }: { added: SQL; zone: string },
): Promise<FinishedGroup[]> {
  const { rows } = await reader.execute<{
    state: StateId;
    class: ClassOfService;
    assignee: string | null;
    took: Days | null;
    items: number;
    finished: number;
    amount: number;
  }>(
    sql`select state, class, assignee, took, count(*)::int as items, count(finished_at)::int as finished, coalesce(sum(added), 0)::float8 as amount
      from (select ${item.stateId} as state, ${item.classOfService} as class, ${item.assigneeId} as assignee, ${item.finishedAt} as finished_at, ${tookDays(zone)} as took, ${added} as added from ${item} where ${where ?? sql`true`}) as counted
      group by state, class, assignee, took order by state, class, assignee, took`,
  );
  return rows.map(({ state, class: classOfService, assignee, took, ...row }) => ({
    stateId: state,
    classOfService,
    assigneeId: assignee,
    items: row.items,
    finished: row.finished,
    tookDays: took === null ? [] : new Array<Days>(row.items).fill(took),
    amount: row.amount,
  }));
}

/** What tells how long finished items took, whose they were and how large; the latest first. */
const finishedRows = (reader: Reader, where: SQL | undefined) =>
  reader
    .select({
      id: item.id,
      stateId: item.stateId,
      stateKind: item.stateKind,
      classOfService: item.classOfService,
      assigneeId: item.assigneeId,
      clock: item.clock,
      deliveredAt: item.deliveredAt,
      finishedAt: item.finishedAt,
      estimate: item.estimate,
      firstEstimate: item.firstEstimate,
      spentMinutes: item.spentMinutes,
      remainingHours: item.remainingHours,
      returns: item.returns,
      own: item.own,
    })
    .from(item)
    .where(where)
    .orderBy(desc(item.enteredStateAt), asc(item.id));

type FinishedRow = Awaited<ReturnType<typeof finishedRows>>[number];

/**
 * Of each of some states the latest items: the database takes them from an index, state by state.
 * @param most so many of each
 */
export async function latestFinished(
  reader: Reader,
  where: SQL | undefined,
  { stateIds, most }: { stateIds: readonly StateId[]; most: number },
): Promise<string[]> {
  const states = sql`unnest(${sql.param([...stateIds])}::text[]) as states(state_id)`;
  const { rows } = await reader.execute<{ id: string }>(
    sql`select latest.id from ${states} cross join lateral (
      select ${item.id} as id from ${item}
      where ${item.stateId} = states.state_id and ${item.stateKind} = 'finished' and ${where ?? sql`true`}
      order by ${item.enteredStateAt} desc nulls last, ${item.id} limit ${most}::int) as latest`,
  );
  return rows.map(({ id }) => id);
}
