import { and, asc, eq, gte, inArray, isNotNull, isNull, lt, or, sql, type SQL } from "drizzle-orm";
import type { Instant } from "@/core/calendar/instant";
import { dayNumber, dayStart } from "@/core/calendar/zone";
import type { Departure, FlowFacts, Running, StateStep, StateSum } from "@/core/flow/facts";
import type { Period } from "@/core/flow/period";
import { UNIT_LEVEL } from "@/core/item/item-type";
import type { FinishKind } from "@/core/item/start-finish";
import type { Reader } from "@/db/connection";
import { flowPassage, item, itemType, project, stay } from "@/db/schema";

/*
 * The read model of the flow, read for a period: starts and finishes as they were kept when they
 * happened, and stays added up by the database. Nothing is kept in memory, and no more rows come
 * than the period has finishes. What the sums mean is said in `core/flow`.
 */

/** Which items of a project figures are of. */
export interface FlowScope {
  project: { id: string; zone: string };
  typeId?: string;
  classOfService?: string;
}

const FINISHES: FinishKind[] = ["delivered", "stopped", "again"];

/**
 * The items of a scope; those withdrawn after a start keep their place in the past, and so do those
 * that have gone to another project since. Goes with a join of `item` and `itemType`, and with what
 * says which project the item was in.
 */
const inScope = ({ typeId, classOfService }: FlowScope): SQL =>
  and(
    eq(itemType.level, UNIT_LEVEL),
    or(isNull(item.withdrawnAt), isNotNull(item.firstStartedAt)),
    typeId === undefined ? undefined : eq(item.typeId, typeId),
    classOfService === undefined ? undefined : sql`${item.classOfService} = ${classOfService}`,
  )!;

const ofType = and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId));

const named = {
  itemId: item.id,
  key: sql<string>`${project.key} || '-' || ${item.number}`,
  title: item.title,
};

/** Everything that the measures of a period are made of. */
export async function readFlowFacts(
  reader: Reader,
  scope: FlowScope,
  period: Period,
): Promise<FlowFacts> {
  const { zone } = scope.project;
  const firstDay = dayNumber(period.from, zone);
  const days = dayNumber(period.to - 1, zone) - firstDay + 1;
  const [departures, running, times, diagram] = await Promise.all([
    readDepartures(reader, scope, period),
    readRunning(reader, scope),
    readStateSums(reader, scope, period),
    readDiagram({ reader, scope, period, firstDay, days }),
  ]);
  return { period, firstDay, days, departures, running, times, ...diagram };
}

/** Every finish in a period, in the order of time. */
export async function readDepartures(
  reader: Reader,
  scope: FlowScope,
  period: Period,
): Promise<Departure[]> {
  const rows = await reader
    .select({
      ...named,
      at: milliseconds(flowPassage.at),
      kind: flowPassage.kind,
      outcome: flowPassage.outcome,
      clock: item.clock,
      elapsedMs: flowPassage.elapsedMs,
      sinceLastMs: flowPassage.sinceLastMs,
    })
    .from(flowPassage)
    .innerJoin(item, eq(item.id, flowPassage.itemId))
    .innerJoin(itemType, ofType)
    .innerJoin(project, eq(project.id, item.projectId))
    .where(and(inScope(scope), passedIn(scope, period), inArray(flowPassage.kind, FINISHES)))
    .orderBy(asc(flowPassage.at), asc(item.number));
  return rows as Departure[];
}

/** An instant as a number: thousands of them are read faster so than as dates. */
const milliseconds = (column: typeof flowPassage.at): SQL<number> =>
  sql<number>`(date_part('epoch', ${column}) * 1000)::float8`;

const passedIn = ({ project: { id } }: FlowScope, { from, to }: Period) =>
  and(eq(flowPassage.projectId, id), gte(flowPassage.at, from), lt(flowPassage.at, to));

/** The items that started, and that finished, in a period, each time once, in the order of time. */
export async function readPassers(
  reader: Reader,
  scope: FlowScope,
  period: Period,
): Promise<{ started: string[]; finished: string[] }> {
  const rows = await reader
    .select({ itemId: item.id, kind: flowPassage.kind })
    .from(flowPassage)
    .innerJoin(item, eq(item.id, flowPassage.itemId))
    .innerJoin(itemType, ofType)
    .where(and(inScope(scope), passedIn(scope, period)))
    .orderBy(asc(flowPassage.at), asc(item.number));
  const ids = (starts: boolean) =>
    rows.filter((r) => (r.kind === "start") === starts).map((r) => r.itemId);
  return { started: ids(true), finished: ids(false) };
}

/** Started and not finished now, by their number. */
export async function readRunning(reader: Reader, scope: FlowScope): Promise<Running[]> {
  return reader
    .select({
      ...named,
      stateId: item.stateId,
      kind: item.stateKind,
      clock: item.clock,
      blocked: sql<boolean>`${item.blockedSince} is not null`,
    })
    .from(item)
    .innerJoin(itemType, ofType)
    .innerJoin(project, eq(project.id, item.projectId))
    .where(
      and(
        inScope(scope),
        eq(item.projectId, scope.project.id),
        isNull(item.withdrawnAt),
        inArray(item.stateKind, ["waiting", "working"]),
      ),
    )
    .orderBy(asc(item.number));
}

/**
 * How long the items first delivered in a period were in each state in progress, until then. What
 * an item was in twice counts it once.
 */
export async function readStateSums(
  reader: Reader,
  scope: FlowScope,
  period: Period,
): Promise<StateSum[]> {
  const { rows } = await reader.execute(sql`
    select spent.key as "stateId", min(spent.value ->> 'kind') as kind, count(*)::int as items,
      sum((spent.value ->> 'spentMs')::float8) as "spentMs",
      sum((spent.value ->> 'blockedMs')::float8) as "blockedMs",
      sum((spent.value ->> 'readyMs')::float8) as "readyMs"
    from ${flowPassage}
    join ${item} on ${item.id} = ${flowPassage.itemId}
    join ${itemType} on ${ofType}
    cross join lateral jsonb_each(${flowPassage.times}) as spent (key, value)
    where ${inScope(scope)} and ${passedIn(scope, period)} and ${flowPassage.kind} = 'delivered'
    group by spent.key order by spent.key`);
  return rows as unknown as StateSum[];
}

/**
 * How the number of items in each state changes from day to day, by the calendar of the zone, and
 * how long items were in progress in all: one pass over the stays.
 */
async function readDiagram({
  reader,
  scope,
  period,
  firstDay,
  days,
}: {
  reader: Reader;
  scope: FlowScope;
  period: Period;
  firstDay: number;
  days: number;
}): Promise<{ steps: StateStep[]; inProgressMs: number }> {
  const at = (instant: Instant) => new Date(instant).toISOString();
  const starts = Array.from({ length: days + 1 }, (_, d) =>
    at(dayStart(firstDay + d, scope.project.zone)),
  );
  // As one text and not as so many parameters.
  const boundaries = sql`${`{${starts.join(",")}}`}::timestamptz[]`;
  const [from, to] = [sql`${at(period.from)}::timestamptz`, sql`${at(period.to)}::timestamptz`];
  const { rows } = await reader.execute(sql`
    with spell as (
      select ${stay.stateId} collate "C" as state_id,
        greatest(0, width_bucket(${stay.enteredAt}, ${boundaries}) - 1) as enters,
        case when ${stay.leftAt} is null or ${stay.leftAt} >= ${to} then ${days}::int
          else width_bucket(${stay.leftAt}, ${boundaries}) - 1 end as leaves,
        case when ${stay.kind} in ('waiting', 'working') then date_part('epoch',
          least(coalesce(${stay.leftAt}, ${to}), ${to}) - greatest(${stay.enteredAt}, ${from})) end
          as seconds
      from ${stay}
      join ${item} on ${item.id} = ${stay.itemId}
      join ${itemType} on ${ofType}
      where ${inScope(scope)} and ${stay.projectId} = ${scope.project.id}
        and ${stay.enteredAt} < ${to}
        and (${stay.leftAt} is null or ${stay.leftAt} >= ${from})
    )
    select state_id, enters, leaves, count(*)::int as items, sum(greatest(seconds, 0)) as seconds
    from spell group by grouping sets ((state_id, enters), (state_id, leaves))`);
  const spells = rows as unknown as Spells[];
  return {
    steps: stepsOf(spells, days),
    inProgressMs:
      spells.reduce((sum, s) => sum + (s.enters === null ? 0 : (s.seconds ?? 0)), 0) * 1000,
  };
}

/** Stays in one state that began on one day of the diagram, or ended on one: each stay is in two. */
interface Spells {
  state_id: string;
  enters: number | null;
  leaves: number | null;
  items: number;
  /** In progress, within the period. */
  seconds: number | null;
}

/** What came and went within a day is in no day's count, and what leaves last leaves the diagram. */
function stepsOf(spells: readonly Spells[], days: number): StateStep[] {
  const steps = new Map<string, StateStep>();
  const add = (stateId: string, day: number, change: number) => {
    const key = `${stateId} ${day}`;
    const step = steps.get(key);
    if (step) step.change += change;
    else steps.set(key, { stateId, day, change });
  };
  for (const { state_id: stateId, enters, leaves, items } of spells) {
    if (enters !== null) add(stateId, enters, items);
    else if (leaves !== null && leaves < days) add(stateId, leaves, -items);
  }
  return [...steps.values()].filter((step) => step.change !== 0);
}

/** Who was in a state just before an instant: the items behind a point of the diagram. */
export async function readInState(
  reader: Reader,
  scope: FlowScope,
  stateId: string,
  at: Instant,
): Promise<string[]> {
  const rows = await reader
    .selectDistinct({ itemId: item.id, number: item.number })
    .from(stay)
    .innerJoin(item, eq(item.id, stay.itemId))
    .innerJoin(itemType, ofType)
    .where(
      and(
        inScope(scope),
        eq(stay.projectId, scope.project.id),
        eq(stay.stateId, stateId),
        lt(stay.enteredAt, at),
        or(isNull(stay.leftAt), gte(stay.leftAt, at)),
      ),
    )
    .orderBy(asc(item.number));
  return rows.map((r) => r.itemId);
}
