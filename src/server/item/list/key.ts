import { sql, type SQL } from "drizzle-orm";
import { factOf, ownFieldOf, type FactName } from "@/core/condition/facts";
import { optionsOf, type Vocabulary } from "@/core/condition/vocabulary";
import { bandsOf, bandStarts, DATE_BANDS, DAY_BANDS, isDuration } from "@/core/item/list/group";
import { groupsFall, type ListQuery } from "@/core/item/list/query";
import { item } from "@/db/schema";
import { factColumn, type SqlAsker } from "../../condition/compile";

/** One of the things that the rows of a list are ordered by, under a name of its own. */
export interface ListKey {
  name: string;
  value: SQL;
  /** As which type a value of it is given back to the database. */
  type: "text" | "float8" | "date";
  descending: boolean;
}

/** What a list is read with: who looks when, and what the project calls its choices. */
export interface ListAsker extends SqlAsker {
  vocabulary: Vocabulary;
  /** Ids in the order in which somebody named them: it decides before the rank does. */
  named?: readonly string[];
}

const TYPES: Partial<Record<ReturnType<typeof factOf>["kind"], ListKey["type"]>> = {
  text: "text",
  date: "date",
};

/** A text in the order of its bytes, which is that of its code points. */
const bytewise = (text: SQL): SQL => sql`(${text}) collate "C"`;

/** What a fact says, as the database gives it out. */
export function valueColumn(fact: FactName, asker: ListAsker): SQL {
  const column = factColumn(fact, asker);
  const { kind } = factOf(fact);
  if (kind === "number") return sql`(${column})::float8`;
  if (kind === "date") return sql`(${column})::date::text`;
  return kind === "flag" ? sql`(${column})` : sql`(${column})::text`;
}

/** What a fact says, of one with several values all of them. */
export function listedColumn(fact: FactName, asker: ListAsker): SQL {
  if (factOf(fact).kind !== "set") return valueColumn(fact, asker);
  const own = ownFieldOf(fact);
  if (own) return sql`coalesce(${item.own} -> ${own.id}::text, '[]'::jsonb)`;
  return fact === "labels" || fact === "parts"
    ? sql`${item[fact]}`
    : sql`${item.outside} -> 'deployedTo'`;
}

/** As `sortKeyOf` in the core. */
function sortColumn(fact: FactName, asker: ListAsker): SQL {
  const column = factColumn(fact, asker);
  const { kind } = factOf(fact);
  if (kind === "flag") return sql`(${column})::int::float8`;
  if (kind === "text") return bytewise(sql`lower((${column}) collate "C")`);
  if (kind === "date") return sql`(${column})::date`;
  if (kind === "number") return sql`(${column})::float8`;
  const ids = optionsOf(fact, asker.vocabulary).map((o) => o.id);
  const offered = sql`${sql.param(ids)}::text[]`;
  return sql`(case when (${column}) is null then null else coalesce(array_position(${offered}, (${column})::text) - 1, ${ids.length}::int) end)::float8`;
}

/** The group of a row: a value, or the band of a date. */
export function groupColumn(fact: FactName, asker: ListAsker): SQL {
  const column = factColumn(fact, asker);
  const { kind } = factOf(fact);
  if (isDuration(fact)) return durationBand(column);
  if (kind === "number") return sql`(${column})::float8`;
  if (kind !== "date") return sql`(${column})::text`;
  const starts = bandStarts(asker);
  const bands = DATE_BANDS.slice(1).toReversed() as (keyof typeof starts)[];
  const cases = bands.map(
    (band) => sql`when (${column})::date >= ${starts[band]}::date then ${band}::text`,
  );
  return sql`(case when (${column}) is null then null ${sql.join(cases, sql` `)} else 'past' end)`;
}

function durationBand(days: SQL): SQL {
  const cases = DAY_BANDS.slice(0, -1).map(
    ({ band, below }) => sql`when (${days}) < ${below}::float8 then ${band}::text`,
  );
  const last = DAY_BANDS.at(-1)!.band;
  return sql`(case when (${days}) is null then null ${sql.join(cases, sql` `)} else ${last}::text end)`;
}

/** What the groups of a list are ordered by. */
export function groupKeys(fact: FactName, asker: ListAsker, descending: boolean): ListKey[] {
  const { kind } = factOf(fact);
  const group = groupColumn(fact, asker);
  const banded = bandsOf(fact);
  const bands = sql`${sql.param([...(banded ?? [])])}::text[]`;
  const place = banded ? sql`array_position(${bands}, ${group})::float8` : sortColumn(fact, asker);
  const keys: ListKey[] = [{ name: "g0", value: place, type: "float8", descending }];
  // What is offered no more stands in one place; there the values tell the groups apart.
  if (kind === "choice")
    keys.push({ name: "g1", value: bytewise(group), type: "text", descending: false });
  return keys;
}

/** The order in which items are ranked; what decides where nothing else does. */
export const BY_RANK: readonly ListKey[] = [
  { name: "r", value: sql`${item.rank}`, type: "text", descending: false },
  { name: "id", value: bytewise(sql`${item.id}::text`), type: "text", descending: false },
];

/** Everything that the rows of a list are ordered by, the first first; no two rows are alike in all. */
export function listKeys(query: ListQuery, asker: ListAsker): ListKey[] {
  const { sort, group } = query;
  return [
    ...(group === null ? [] : groupKeys(group, asker, groupsFall(query))),
    ...sort.map(({ fact, descending }, i): ListKey => ({
      name: `s${i}`,
      value: sortColumn(fact, asker),
      type: TYPES[factOf(fact).kind] ?? "float8",
      descending,
    })),
    ...(asker.named ? [asNamed(asker.named)] : []),
    ...BY_RANK,
  ];
}

const asNamed = (ids: readonly string[]): ListKey => ({
  name: "n",
  value: sql`array_position(${sql.param(ids)}::uuid[], ${item.id})::float8`,
  type: "float8",
  descending: false,
});

/** The order of rows by some keys. */
export const orderedBy = (keys: readonly ListKey[]): SQL =>
  sql.join(
    keys.map(({ name, descending }) => {
      const column = sql.identifier(name);
      return descending ? sql`${column} desc nulls last` : sql`${column} asc nulls last`;
    }),
    sql`, `,
  );
