import type { SpanBelow } from "@/core/timeline/view";
import type { TimeOfItem } from "@/core/time/sums";
import { and, eq, inArray, isNull, or, sql, type SQL } from "drizzle-orm";
import { alias, type AnyPgColumn } from "drizzle-orm/pg-core";
import { DAY, type Instant } from "@/core/calendar/instant";
import type { Day } from "@/core/calendar/month";
import type { Dependency } from "@/core/item/event";
import type { Reader, Transaction } from "@/db/connection";
import { LARGE_LEVEL, UNIT_LEVEL } from "@/core/item/item-type";
import { MOST_TAKEN_ALONG } from "@/core/item/project-change";
import type { Below } from "@/core/board/around";
import { comment, item, itemLink, itemType, project, timeEntry } from "@/db/schema";
import { invalid } from "../refused";
import { keyColumn } from "./key";

/*
 * What stands around items: those under them, those that they wait for, and those that wait for
 * them.
 */

/**
 * Of each item that has others under it: how many, and how many of these are finished.
 * @param seen which of those under them count; all where it is left out
 */
export const childCounts = (reader: Reader, ids: readonly string[], seen?: SQL) =>
  reader
    .select({
      parentId: item.parentId,
      children: sql<number>`count(*)::int`,
      finishedChildren: sql<number>`(count(*) filter (where ${item.stateKind} = 'finished'))::int`,
    })
    .from(item)
    .where(
      and(
        sql`${item.parentId} = any(${sql.param([...ids])}::uuid[])`,
        isNull(item.withdrawnAt),
        seen,
      ),
    )
    .groupBy(item.parentId);

/** What an item stands under, in whatever project that is; null where it stands under nothing. */
export async function parentNow(
  reader: Reader,
  { parentId }: { parentId: string | null },
): Promise<{ id: string; projectId: string; typeId: string; key: string } | null> {
  if (parentId === null) return null;
  const [row] = await reader
    .select({ id: item.id, projectId: item.projectId, typeId: item.typeId, key: keyColumn })
    .from(item)
    .where(eq(item.id, parentId));
  return row ?? null;
}

/**
 * What stands under an item, level by level; what was withdrawn stays where it was.
 * @throws Refused where that are too many to go along
 */
export async function idsUnder(reader: Reader, itemId: string): Promise<string[]> {
  const under: string[] = [];
  let level = [itemId];
  while (level.length > 0) {
    const rows = await reader
      .select({ id: item.id })
      .from(item)
      .where(and(inArray(item.parentId, level), isNull(item.withdrawnAt)))
      .orderBy(item.id);
    level = rows.map(({ id }) => id);
    under.push(...level);
    if (under.length > MOST_TAKEN_ALONG)
      throw invalid(
        `More than ${MOST_TAKEN_ALONG} items stand under it.`,
        "Move the pieces under it one by one.",
      );
  }
  return under;
}

/** How far back talk counts. */
const TALK_MS = 14 * DAY;

/**
 * On how many days people talked about those of some items that are not begun, or recorded time on
 * them, since they wait; and whether it was time on one of these days.
 */
export async function talkOf(
  reader: Reader,
  ids: readonly string[],
  { zone, now }: { zone: string; now: Instant },
): Promise<{ id: string; talked: number; worked: boolean }[]> {
  const since = sql`greatest(${item.enteredStateAt}, to_timestamp(${(now - TALK_MS) / 1000}))`;
  const dayOf = (at: SQL | AnyPgColumn) => sql`(${at} at time zone ${zone}::text)::date`;
  // Asked of the rows themselves: by their index, not by all that was ever said.
  const of = (itemId: AnyPgColumn) =>
    sql`${itemId} = any(${sql.param([...ids])}::uuid[]) and ${item.stateKind} = 'unstarted'`;
  const { rows } = await reader.execute<{ id: string; talked: number; worked: boolean }>(sql`
    select id, count(distinct day)::int as talked, bool_or(worked) as worked from (
      select ${item.id} as id, ${dayOf(comment.at)} as day, false as worked
        from ${comment} join ${item} on ${item.id} = ${comment.itemId}
        where ${of(comment.itemId)} and ${comment.at} > ${since}
      union all
      select ${item.id}, ${timeEntry.on}, true
        from ${timeEntry} join ${item} on ${item.id} = ${timeEntry.itemId}
        where ${of(timeEntry.itemId)} and ${timeEntry.goneAt} is null and ${timeEntry.on} >= ${dayOf(since)}
    ) as said group by id`);
  return rows;
}

const under = alias(item, "under");

/**
 * Some items with what is under each of them, however deep, as `below (root, id)`.
 * @param of which of them, as a condition on the item at the top
 * @param sees what somebody may see of what is under them; all where it is left out
 */
const withBelow = (of: SQL, sees: SQL = sql`true`): SQL => sql`
  with recursive below(root, id) as (
    select ${item.id}, ${item.id} from ${item} where ${of}
    union
    select below.root, ${under.id} from below join ${item} as "under" on ${under.parentId} = below.id
    where ${under.withdrawnAt} is null and ${sees}
  )`;

/** The same of large pieces alone. */
const underLarge = (of: SQL, sees?: SQL): SQL =>
  withBelow(
    sql`${of} and (select ${itemType.level} from ${itemType} where ${itemType.projectId} = ${item.projectId} and ${itemType.id} = ${item.typeId}) >= ${LARGE_LEVEL}::int`,
    sees,
  );

const seenUnder = (sees?: (of: typeof under) => SQL | undefined): SQL =>
  sql`coalesce(${sees?.(under) ?? sql`true`}, false)`;

/** Of each large piece among some items: how much of each type is under it, and has finished. */
export async function belowLarge(
  reader: Reader,
  ids: readonly string[],
  sees?: (of: typeof under) => SQL | undefined,
): Promise<(Below & { root: string })[]> {
  const top = sql`${item.id} = any(${sql.param([...ids])}::uuid[])`;
  const { rows } = await reader.execute<{
    root: string;
    typeId: string;
    count: number;
    finished: number;
  }>(sql`${underLarge(top, seenUnder(sees))}
    select below.root, ${item.typeId} as "typeId", count(*)::int as count,
      (count(*) filter (where ${item.stateKind} = 'finished'))::int as finished
    from below join ${item} on ${item.id} = below.id
    where below.id <> below.root
    group by 1, 2 order by 1, 3 desc, 2`);
  return rows;
}

/** What an item and all that is under it says of the time that it takes; itself first. */
export async function timeOfTree(
  reader: Reader,
  id: string,
  sees?: (of: typeof under) => SQL | undefined,
): Promise<TimeOfItem[]> {
  const { rows } = await reader.execute<TimeOfItem & Record<string, unknown>>(
    sql`${withBelow(sql`${item.id} = ${id}::uuid`, seenUnder(sees))}
    select ${item.firstEstimate} as "firstEstimate", ${item.spentMinutes} as "spentMinutes",
      ${item.remainingHours} as "left", ${item.stateKind} = 'finished' as "finished"
    from below join ${item} on ${item.id} = below.id
    order by below.id <> below.root, ${item.rank}`,
  );
  return rows;
}

/**
 * From when to when the stories under each of some large pieces go, and how many of them are done.
 * What runs goes on until today.
 * @param zone IANA name, in which days are counted
 */
export async function spansBelow(
  reader: Reader,
  ids: readonly string[],
  { zone, today }: { zone: string; today: Day },
  sees?: (of: typeof under) => SQL | undefined,
): Promise<ReadonlyMap<string, SpanBelow>> {
  if (ids.length === 0) return new Map();
  const top = sql`${item.id} = any(${sql.param([...ids])}::uuid[])`;
  const dayOf = (at: AnyPgColumn) => sql`(${at} at time zone ${zone}::text)::date`;
  const number = (day: SQL) => sql`(${day} - date '1970-01-01')`;
  const { rows } = await reader.execute<SpanBelow & { root: string } & Record<string, unknown>>(
    sql`${withBelow(top, seenUnder(sees))}
    select below.root,
      ${number(sql`min(least(${dayOf(item.firstStartedAt)}, ${item.plannedFrom}))`)} as "from",
      ${number(sql`max(greatest(${dayOf(item.finishedAt)}, ${item.plannedTo}, case when ${item.firstStartedAt} is not null and ${item.stateKind} <> 'finished' then ${today}::date end))`)} as "to",
      count(*)::int as items,
      (count(*) filter (where ${item.stateKind} = 'finished'))::int as done,
      coalesce(bool_or(${item.firstStartedAt} is not null), false) as begun
    from below join ${item} on ${item.id} = below.id
    join ${itemType} on ${itemType.projectId} = ${item.projectId} and ${itemType.id} = ${item.typeId}
    where below.id <> below.root and ${itemType.level} = ${UNIT_LEVEL}::int
    group by 1`,
  );
  return new Map(rows.map(({ root, ...span }) => [root, span]));
}

/** The ids of all that is under a large piece. */
export async function idsBelow(
  reader: Reader,
  id: string,
  sees?: (of: typeof under) => SQL | undefined,
): Promise<string[]> {
  const { rows } = await reader.execute<{ id: string }>(
    sql`${underLarge(sql`${item.id} = ${id}::uuid`, seenUnder(sees))} select id from below where id <> root order by 1`,
  );
  return rows.map((row) => row.id);
}

const waiting = alias(item, "waiting");
const wanted = alias(item, "wanted");
type End = typeof waiting | typeof wanted;

const keyOf = (of: End) =>
  sql<string>`(select ${project.key} from ${project} where ${project.id} = ${of.projectId}) || '-' || ${of.number}`;

const endOf = (of: End) => ({
  id: of.id,
  key: keyOf(of),
  stateId: of.stateId,
  teamId: of.teamId,
  sprintId: of.sprintId,
});

/**
 * The dependencies of some items, either way, that are not satisfied: what is wanted was not
 * delivered yet.
 * @param sees what somebody may see of the two ends; all where it is left out
 */
export const dependenciesOf = (
  reader: Reader,
  ids: readonly string[],
  sees: (of: End) => SQL | undefined = () => undefined,
) => {
  const seen = (of: End) => sql<boolean>`coalesce(${sees(of) ?? sql`true`}, false)`;
  return reader
    .select({
      waiting: endOf(waiting),
      wanted: endOf(wanted),
      /** Whether the one that waits is still to be done. */
      waits: sql<boolean>`(${waiting.stateKind} <> 'finished' and ${waiting.withdrawnAt} is null)`,
      seesWaiting: seen(waiting),
      seesWanted: seen(wanted),
    })
    .from(itemLink)
    .innerJoin(waiting, eq(waiting.id, itemLink.fromItemId))
    .innerJoin(wanted, eq(wanted.id, itemLink.toItemId))
    .where(
      and(
        eq(itemLink.kind, "waits for"),
        isNull(wanted.deliveredAt),
        or(inArray(itemLink.fromItemId, [...ids]), inArray(itemLink.toItemId, [...ids])),
      ),
    )
    .orderBy(waiting.number, wanted.number, wanted.id);
};

/** The items that one waits for and that were not delivered yet. */
export async function waitedFor(reader: Reader, id: string): Promise<Dependency[]> {
  const found = await dependenciesOf(reader, [id]);
  return found.flatMap(({ waiting, wanted }) =>
    waiting.id === id ? [{ itemId: wanted.id, key: wanted.key }] : [],
  );
}

/**
 * Refuses what would make items wait for themselves. An item waits for what it is said to wait for,
 * and for all that stands under it, in whatever projects these are. One at a time looks and writes,
 * so that two who each see no circle do not make one together.
 * @throws Refused
 */
export async function refuseCircle(
  tx: Transaction,
  { waiting, for: wanted }: { waiting: string; for: string },
): Promise<void> {
  await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended('what waits for what', 0))`);
  const { rows } = await tx.execute(sql`
    with recursive ahead(id) as (
      select ${wanted}::uuid
      union
      select next.id from ahead, lateral (
        select ${itemLink.toItemId} as id from ${itemLink}
        where ${itemLink.fromItemId} = ahead.id and ${itemLink.kind} = 'waits for'
        union all
        select ${item.id} from ${item}
        where ${item.parentId} = ahead.id and ${item.withdrawnAt} is null
      ) as next
    )
    select 1 from ahead where id = ${waiting}::uuid limit 1`);
  if (rows.length > 0)
    throw invalid(
      "They would wait for each other in a circle.",
      "Take away what leads back, or split one of them.",
    );
}
