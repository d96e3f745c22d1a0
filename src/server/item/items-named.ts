import { and, inArray, isNull, sql } from "drizzle-orm";
import { parseItemKey } from "@/core/item/key";
import type { Reader } from "@/db/connection";
import { item } from "@/db/schema";
import { amongGiven, givenArray, namedQuery, namedSql } from "@/db/statement";
import { keyColumn } from "./key";

/** More keys in one text, or from one event, are passed over. */
const MOST = 500;

const NAMED = namedSql<{ id: string; prefix: string; number: number }>(
  "the items that keys stand for",
  `select i.id, k.prefix, k.number
   from (select distinct * from unnest($2::text[], $3::int[])) as wanted(prefix, number)
   join item_key k on k.prefix = wanted.prefix and k.number = wanted.number
   join item i on i.id = k.item_id
   where i.project_id = any(${givenArray("$1::text[]")}) and i.withdrawn_at is null
   order by i.id`,
);

/**
 * The items of some projects that keys stand for, by the keys in capital letters: those that they
 * have and those that they had. What was withdrawn is not among them.
 */
export async function itemsNamed(
  reader: Reader,
  projectIds: readonly string[],
  keys: readonly string[],
): Promise<ReadonlyMap<string, string>> {
  const wanted = [...new Set(keys)].flatMap((key) => parseItemKey(key) ?? []).slice(0, MOST);
  if (wanted.length === 0) return new Map();
  const rows = await NAMED(reader, [
    [...projectIds],
    wanted.map(({ prefix }) => prefix),
    wanted.map(({ number }) => number),
  ]);
  return new Map(rows.map(({ id, prefix, number }) => [`${prefix}-${number}`, id]));
}

/** The items of some projects that belong to changes of a code host, as their histories know them. */
export async function itemsOfChanges(
  reader: Reader,
  projectIds: readonly string[],
  changes: readonly string[],
): Promise<string[]> {
  if (changes.length === 0) return [];
  const ofChange = changes.map(
    (id) => sql`${item.outside} -> 'changes' @> ${JSON.stringify([{ id }])}::jsonb`,
  );
  const rows = await reader
    .select({ id: item.id })
    .from(item)
    .where(
      and(
        inArray(item.projectId, [...projectIds]),
        isNull(item.withdrawnAt),
        sql`${item.outside} -> 'changes' <> '[]'::jsonb`,
        sql`(${sql.join(ofChange, sql` or `)})`,
      ),
    )
    .orderBy(item.id)
    .limit(MOST);
  return rows.map(({ id }) => id);
}

/** What some items are called now, by their ids and in the order of their numbers. */
export async function keysOfItems(
  reader: Reader,
  ids: readonly string[],
): Promise<ReadonlyMap<string, string>> {
  if (ids.length === 0) return new Map();
  const rows = await reader
    .select({ id: item.id, key: keyColumn })
    .from(item)
    .where(inArray(item.id, [...ids]))
    .orderBy(item.number);
  return new Map(rows.map(({ id, key }) => [id, key]));
}

/** What some items know of outside, in the order of their ids; what was withdrawn is left out. */
export const outsideOf = (reader: Reader, ids: readonly string[]) =>
  OUTSIDE(reader, { ids: [...ids] });

const OUTSIDE = namedQuery("what items know of outside", (reader) =>
  reader
    .select({ id: item.id, outside: item.outside })
    .from(item)
    .where(and(amongGiven(item.id, "ids", "uuid"), isNull(item.withdrawnAt)))
    .orderBy(item.id),
);

/** The projects that some items are in. */
export async function projectsOfItems(
  reader: Reader,
  ids: readonly string[],
): Promise<ReadonlyMap<string, string>> {
  const rows = await reader
    .select({ id: item.id, projectId: item.projectId })
    .from(item)
    .where(inArray(item.id, [...ids]));
  return new Map(rows.map(({ id, projectId }) => [id, projectId]));
}
