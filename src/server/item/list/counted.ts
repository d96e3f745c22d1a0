import { and, sql, type SQL } from "drizzle-orm";
import { factsIn, type Condition } from "@/core/condition/condition";
import { factOf, type FactName } from "@/core/condition/facts";
import {
  countedField,
  type CountedAsked,
  type CountedField,
  type CountedView,
  type ValueCount,
} from "@/core/item/list/counted-values";
import type { Instant } from "@/core/calendar/instant";
import { inOneMoment } from "@/db/connection";
import { item } from "@/db/schema";
import { compileCondition, factColumn } from "../../condition/compile";
import type { Viewer } from "../../people/viewer";
import { enterList, knowing, narrowed, type EnteredList } from "./enter";
import { groupColumn, listedColumn } from "./key";
import type { ListOf } from "./read";

/**
 * The values of some fields with how many items have each, as far as somebody may see them, and how
 * many there are in all. They are counted in one moment, so that they agree with each other.
 * @param within only what this is true of is counted at all
 */
export async function readCounted(
  viewer: Viewer,
  projectKey: string,
  asked: CountedAsked,
  { within, now = Date.now() }: { within?: SQL; now?: Instant } = {},
): Promise<CountedView> {
  const entered = await enterList(viewer, projectKey, now);
  const came = { ...entered, seen: { ...entered.seen, where: and(entered.seen.where, within) } };
  return inOneMoment(async (reader) => {
    const seen = await knowing({ ...came, seen: { ...came.seen, reader } }, factsAsked(asked));
    const listOf = listsOnce({ ...came, seen }, asked);
    const fields: CountedField[] = [];
    for (const { fact, condition } of asked.fields) {
      const of = await listOf(condition);
      const counts = await countValues(of, fact, asked.sum);
      fields.push(countedField(fact, counts, of.asker.vocabulary));
    }
    const shown = await countShown(await listOf(asked.condition), asked.named, asked.sum);
    return { fields, ...shown, at: now };
  });
}

function factsAsked({ condition, fields, named }: CountedAsked): FactName[] {
  const conditions = [condition, ...named, ...fields.map((field) => field.condition)];
  return [...conditions.flatMap((one) => [...factsIn(one)]), ...fields.map(({ fact }) => fact)];
}

/** The list of each condition, read once: most fields are counted over the same one. */
function listsOnce(entered: EnteredList, { board, standing }: CountedAsked) {
  const known = new Map<string, Promise<ListOf>>();
  return (condition: Condition): Promise<ListOf> => {
    const key = JSON.stringify(condition);
    const list = known.get(key) ?? narrowed(entered, condition, { board, standing });
    known.set(key, list);
    return list;
  };
}

/** What is added up of each item. */
const amount = (sum: FactName | null, { asker }: ListOf): SQL =>
  sum === null ? sql`null::float8` : sql`(${factColumn(sum, asker)})::float8`;

const tallied = (sum: FactName | null, of: ListOf): SQL =>
  sql`count(*)::int as count, coalesce(sum(${amount(sum, of)}), 0)::float8 as sum`;

/** How many items of a list have each value of a field, and what they add up to. */
export async function countValues(
  of: ListOf,
  fact: FactName,
  sum: FactName | null,
): Promise<ValueCount[]> {
  const set = factOf(fact).kind === "set";
  const key = set ? sql`one.value` : groupColumn(fact, of.asker);
  const each = set
    ? sql`left join lateral jsonb_array_elements_text(${listedColumn(fact, of.asker)}) as one (value) on true`
    : sql``;
  const { rows } = await of.reader.execute<{ key: unknown; count: number; sum: number }>(
    sql`select ${key} as key, ${tallied(sum, of)} from ${item} ${each} where ${of.where ?? sql`true`} group by 1`,
  );
  return rows.map((row) => ({ ...row, key: row.key === null ? null : String(row.key) }));
}

/** How many items a list shows, and of how many of them each of some conditions is true. */
async function countShown(
  of: ListOf,
  conditions: readonly Condition[],
  sum: FactName | null,
): Promise<Pick<CountedView, "named" | "total">> {
  const each = conditions.map(
    (condition, i) =>
      sql`, count(*) filter (where ${compileCondition(condition, of.asker)})::int as ${sql.identifier(`n${i}`)}`,
  );
  const { rows } = await of.reader.execute<Record<string, number>>(
    sql`select ${tallied(sum, of)} ${sql.join(each, sql``)} from ${item} where ${of.where ?? sql`true`}`,
  );
  const [row] = rows;
  return {
    named: conditions.map((_, i) => row[`n${i}`]),
    total: { count: row.count, sum: row.sum },
  };
}
