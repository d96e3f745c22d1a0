import { sql, type SQL } from "drizzle-orm";
import { cardLookFacts, factsAskedFor, USUAL_CARDS } from "@/core/board/card-look";
import { EVERY_ITEM } from "@/core/condition/condition";
import type { FactValue } from "@/core/condition/facts";
import type { CardFactsAsked, CardsTold } from "@/core/item/list/card-facts";
import { item } from "@/db/schema";
import { compileCondition } from "../../condition/compile";
import type { Viewer } from "../../people/viewer";
import { enterList, namedOf, narrowed } from "./enter";
import { listedColumn, type ListAsker } from "./key";

/** What the cards of a board say that they do not have themselves, as far as a person sees the items. */
export async function readCardFacts(
  viewer: Viewer,
  projectKey: string,
  { board, cards, of: ids }: CardFactsAsked,
  now = Date.now(),
): Promise<CardsTold> {
  const entered = await enterList(viewer, projectKey, now);
  const asked = ids === null ? entered : { ...entered, seen: namedOf(entered, ids) };
  const look = { ...USUAL_CARDS, ...cards };
  const of = await narrowed(asked, EVERY_ITEM, { board, facts: cardLookFacts(look) });
  const facts = factsAskedFor(look);
  const values = facts.map(
    (fact, i) => sql`, ${listedColumn(fact, of.asker)} as ${sql.identifier(`v${i}`)}`,
  );
  const { rows } = await of.reader.execute<Record<string, unknown>>(
    sql`select ${item.id}, ${markColumn(cards, of.asker)} as mark ${sql.join(values, sql``)} from ${item} where ${of.where ?? sql`true`} order by 1`,
  );
  const told = rows.map((row) => {
    const said = facts.map((_, i) => row[`v${i}`] as FactValue);
    return [row.id as string, { values: said, mark: row.mark as number | null }] as const;
  });
  const says = ([, { values: said, mark }]: (typeof told)[number]) =>
    mark !== null || said.some((value) => value !== null);
  return Object.fromEntries(ids === null ? told.filter(says) : told);
}

/** The place of the first mark whose condition is true of a row. */
function markColumn({ marks }: CardFactsAsked["cards"], asker: ListAsker): SQL {
  if (marks.length === 0) return sql`null::int`;
  const cases = marks.map(
    ({ condition }, i) => sql`when ${compileCondition(condition, asker)} then ${i}::int`,
  );
  return sql`(case ${sql.join(cases, sql` `)} end)`;
}
