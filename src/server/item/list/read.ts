import { getTableColumns, inArray, sql, type Column, type SQL } from "drizzle-orm";
import { factOf, type FactName, type FactValue } from "@/core/condition/facts";
import type { ListGroup } from "@/core/item/list/arrange";
import type { GroupKey } from "@/core/item/list/group";
import { ANCHOR_EVERY, groupsFall, type ListQuery } from "@/core/item/list/query";
import type { Summary } from "@/core/item/list/sums";
import type { Reader } from "@/db/connection";
import { readMany, type RowOf } from "@/db/read-many";
import { item } from "@/db/schema";
import { factColumn } from "../../condition/compile";
import type { ItemRow } from "../rows";
import { behind, writeCursor, type Cursor } from "./cursor";
import {
  groupColumn,
  groupKeys,
  listedColumn,
  listKeys,
  valueColumn,
  orderedBy,
  type ListAsker,
  type ListKey,
} from "./key";

/**
 * Which items a list is made of: a condition on the rows of `item`, with what the reader may see of
 * them in it already.
 */
export interface ListOf {
  reader: Reader;
  where: SQL | undefined;
  asker: ListAsker;
}

export interface ListPage {
  ids: string[];
  /** Of each, what the list is sorted by first; null where it is not sorted. */
  sortedBy: FactValue[];
  /** Where the next page begins; null at the end of the list. */
  next: string | null;
}

type Row = Record<string, unknown>;

const named = (value: SQL, name: string): SQL => sql`${value} as ${sql.identifier(name)}`;

/** The rows of a list with what they are ordered by, in no order yet. */
const keyed = (
  { where }: Pick<ListOf, "where">,
  keys: readonly ListKey[],
  ...more: readonly SQL[]
): SQL =>
  sql`select ${sql.join(
    [...keys.map(({ name, value }) => named(value, name)), ...more],
    sql`, `,
  )} from ${item} where ${where ?? sql`true`}`;

/** What a row is ordered by, as it can be given back. */
const cursorOf = (row: Row, keys: readonly ListKey[]): Cursor =>
  keys.map(({ name }) => row[name] as Cursor[number]);

/** Dates as their texts, so that no driver makes instants of them. */
const told = (keys: readonly ListKey[]): SQL =>
  sql.join(
    keys.map(({ name, type }) =>
      type === "date"
        ? named(sql`${sql.identifier(name)}::text`, name)
        : sql`${sql.identifier(name)}`,
    ),
    sql`, `,
  );

/** Where a page begins, and how long it is. */
interface PageAsked {
  /** Where it goes on; from the top without one. */
  after: Cursor | null;
  limit: number;
  /** So many rows behind that are passed over. */
  skip?: number;
}

/** A page of a list, in its order. */
export async function readListPage(
  of: ListOf,
  query: ListQuery,
  asked: PageAsked,
): Promise<ListPage> {
  const [first] = query.sort;
  const sorted = first ? valueColumn(first.fact, of.asker) : sql`null`;
  const { rows, next } = await readPage(of, listKeys(query, of.asker), asked, [
    { name: "sorted_by", value: sorted },
  ]);
  return {
    ids: rows.map((row) => row.id as string),
    sortedBy: rows.map((row) => row.sorted_by as FactValue),
    next,
  };
}

/**
 * A page of rows in the order of some keys, the last of which tells any two apart.
 * @param more what else is told of each row, under names that no key has
 */
export async function readPage(
  of: Pick<ListOf, "reader" | "where">,
  keys: readonly ListKey[],
  { after, limit, skip = 0 }: PageAsked,
  more: readonly Pick<ListKey, "name" | "value">[] = [],
): Promise<{ rows: Row[]; next: string | null }> {
  const from = after === null ? sql`true` : behind(keys, after);
  const beside = more.map(({ name }) => sql`${sql.identifier(name)}, `);
  const listed = keyed(of, keys, ...more.map(({ name, value }) => named(value, name)));
  const { rows } = await of.reader.execute<Row>(
    sql`select ${sql.join(beside)}${told(keys)} from (select * from (${listed}) as listed where ${from} order by ${orderedBy(keys)} limit ${limit + 1}::int offset ${skip}::int) as page`,
  );
  const shown = rows.slice(0, limit);
  const last = shown.at(-1);
  return {
    rows: shown,
    next: rows.length > limit && last ? writeCursor(cursorOf(last, keys)) : null,
  };
}

/** All items of a list, in no order. @param limit so many at most */
export async function readIds(
  { reader, where }: Pick<ListOf, "reader" | "where">,
  limit: number,
): Promise<string[]> {
  const rows = await reader.select({ id: item.id }).from(item).where(where).limit(limit);
  return rows.map((row) => row.id);
}

/** The items of a page, in its order. */
export const readRows = (reader: Reader, page: Pick<ListPage, "ids">): Promise<ItemRow[]> =>
  readColumns(reader, page, getTableColumns(item));

/**
 * The items that a condition holds for, read with it in one step: what somebody moves meanwhile is not among
 * them in another state.
 */
export const readRowsOf = (
  { reader, where }: Pick<ListOf, "reader" | "where">,
  limit: number,
): Promise<ItemRow[]> =>
  readMany(reader, item, getTableColumns(item), sql`where ${where ?? sql`true`} limit ${limit}`);

/** Some columns of the items of a page, in its order. @param columns the id among them */
export async function readColumns<C extends Record<string, Column> & { id: typeof item.id }>(
  reader: Reader,
  { ids }: Pick<ListPage, "ids">,
  columns: C,
): Promise<RowOf<C>[]> {
  const named = sql`where ${item.id} = any(${sql.param([...ids])}::uuid[])`;
  const rows = await readMany(reader, item, columns, named);
  const known = new Map(rows.map((row) => [row.id, row]));
  return ids.flatMap((id) => known.get(id) ?? []);
}

/** What some items say of some facts, in the order of the facts. */
export async function readValues(
  { reader, asker }: ListOf,
  ids: readonly string[],
  facts: readonly FactName[],
): Promise<Map<string, FactValue[]>> {
  if (ids.length === 0 || facts.length === 0) return new Map(ids.map((id) => [id, []]));
  const values = facts.map((fact, i) => named(listedColumn(fact, asker), `v${i}`));
  const { rows } = await reader.execute<Row>(
    sql`select ${item.id}, ${sql.join(values, sql`, `)} from ${item} where ${inArray(item.id, [...ids])}`,
  );
  return new Map(
    rows.map((row) => [row.id as string, facts.map((_, i) => row[`v${i}`] as FactValue)]),
  );
}

/** Where every so many rows of a list one stands, so that a scrollbar can jump there. */
export async function readAnchors(
  of: ListOf,
  query: ListQuery,
  every = ANCHOR_EVERY,
): Promise<string[]> {
  const keys = listKeys(query, of.asker);
  const { rows } = await of.reader.execute<Row>(
    sql`select ${told(keys)} from (select *, row_number() over (order by ${orderedBy(keys)}) as at from (${keyed(of, keys)}) as listed) as numbered where at % ${every}::int = 0 order by at`,
  );
  return rows.map((row) => writeCursor(cursorOf(row, keys)));
}

/** The sums of one fact over a group. */
function summing(fact: FactName, i: number): SQL {
  const column = sql.identifier(`v${i}`);
  const count = named(sql`count(${column})::int`, `of${i}`);
  if (factOf(fact).kind === "date")
    return sql`${count}, ${named(sql`min(${column})::text`, `a${i}`)}, ${named(sql`max(${column})::text`, `b${i}`)}`;
  const median = sql`percentile_cont(0.5) within group (order by ${column})`;
  return sql`${count}, ${named(sql`coalesce(sum(${column}), 0)::float8`, `a${i}`)}, ${named(sql`avg(${column})::float8`, `b${i}`)}, ${named(median, `c${i}`)}`;
}

function summaryIn(row: Row, fact: FactName, i: number): Summary {
  const of = row[`of${i}`] as number;
  const [a, b, c] = [row[`a${i}`], row[`b${i}`], row[`c${i}`]];
  if (factOf(fact).kind === "date")
    return { kind: "date", of, earliest: a as string | null, latest: b as string | null };
  return {
    kind: "number",
    of,
    sum: a as number,
    mean: b as number | null,
    median: c as number | null,
  };
}

/** The groups of a list in their order, each with its count and sums; one of all without a grouping. */
export async function readGroups(of: ListOf, query: ListQuery): Promise<ListGroup[]> {
  const { group, sums } = query;
  const { asker, where } = of;
  const keys = group === null ? [] : groupKeys(group, asker, groupsFall(query));
  const values = sums.map((fact, i) => {
    const type = sql.raw(factOf(fact).kind === "date" ? "date" : "float8");
    return named(sql`(${factColumn(fact, asker)})::${type}`, `v${i}`);
  });
  const columns = [
    named(group === null ? sql`null::text` : groupColumn(group, asker), "g"),
    ...keys.map(({ name, value }) => named(value, name)),
    ...values,
  ];
  const by = [sql`g`, ...keys.map(({ name }) => sql`${sql.identifier(name)}`)];
  const told = [sql`g`, sql`count(*)::int as count`, ...sums.map(summing)];
  const grouped =
    group === null ? sql`` : sql` group by ${sql.join(by, sql`, `)} order by ${orderedBy(keys)}`;
  // Without a grouping there is one row, also of nothing.
  const head = group === null ? [sql`null::text as g`, ...told.slice(1)] : told;
  const { rows } = await of.reader.execute<Row>(
    sql`select ${sql.join(head, sql`, `)} from (select ${sql.join(columns, sql`, `)} from ${item} where ${where ?? sql`true`}) as listed${grouped}`,
  );
  return rows.map((row) => ({
    key: (row.g === null ? null : String(row.g)) as GroupKey,
    count: row.count as number,
    sums: sums.map((fact, i) => summaryIn(row, fact, i)),
  }));
}
