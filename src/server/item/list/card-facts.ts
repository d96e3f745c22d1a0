import { sql, type SQL } from "drizzle-orm";
import { cardLookFacts, factsAskedFor, USUAL_CARDS, type CardLook } from "@/core/board/card-look";
import type { Instant } from "@/core/calendar/instant";
import { EVERY_ITEM } from "@/core/condition/condition";
import type { PromiseLeft } from "@/core/item/promise-left";
import type { FactValue } from "@/core/condition/facts";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import type { Probably } from "@/core/plan/probably";
import type { CardFactsAsked, CardsTold, CardTold } from "@/core/item/list/card-facts";
import { item } from "@/db/schema";
import type { Ground } from "../../across/ground";
import { compileCondition } from "../../condition/compile";
import type { Viewer } from "../../people/viewer";
import { readPromisesLeft } from "../../intake/promises";
import { readUntil } from "../../plan/reach";
import { enterList, namedOf, narrowed, type EnteredList } from "./enter";
import { listedColumn, type ListAsker } from "./key";
import { readParents } from "./parents";
import type { ListOf } from "./read";
import { readZigzags } from "./zigzags";

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
  const more = await readMore(of, { ...entered, more: look.more, now });
  const values = facts.map(
    (fact, i) => sql`, ${listedColumn(fact, of.asker)} as ${sql.identifier(`v${i}`)}`,
  );
  const { rows } = await of.reader.execute<Record<string, unknown>>(
    sql`select ${item.id}, ${markColumn(cards, of.asker)} as mark ${sql.join(values, sql``)} from ${item} where ${of.where ?? sql`true`} order by 1`,
  );
  const told = rows.map((row) => {
    const said = facts.map((_, i) => row[`v${i}`] as FactValue);
    const id = row.id as string;
    const card: CardTold = { values: said, mark: row.mark as number | null, ...more(id) };
    return [id, card] as const;
  });
  const says = ([, { values: said, mark, ...besides }]: (typeof told)[number]) =>
    mark !== null || said.some((value) => value !== null) || Object.keys(besides).length > 0;
  return Object.fromEntries(ids === null ? told.filter(says) : told);
}

/** What cards say besides: of each item its line, what is left of its promise, what it stands under. */
async function readMore(
  of: ListOf,
  {
    viewer,
    ground,
    more,
    now,
  }: Pick<EnteredList, "viewer" | "ground"> & { more: CardLook["more"]; now: Instant },
): Promise<(id: string) => Pick<CardTold, "zigzag" | "left" | "parent" | "probably">> {
  const [zigzags, left, parents, probably] = await Promise.all([
    more.includes("zigzag") ? readZigzags(of, now) : null,
    more.includes("promise left") ? leftIn(ground, now) : null,
    more.includes("parent") ? readParents(of, viewer, ground) : null,
    more.includes("probably") ? probablyIn(viewer, ground, now) : null,
  ]);
  return (id) => {
    const [line, time, parent] = [zigzags?.get(id), left?.get(id), parents?.get(id)];
    const likely = probably?.(id);
    return {
      ...(line && { zigzag: line }),
      ...(time && { left: time }),
      ...(parent && { parent }),
      ...(likely && { probably: likely }),
    };
  };
}

/** What is left of the promises of all that is looked at. */
async function leftIn(
  { projects }: Ground,
  now: Instant,
): Promise<ReadonlyMap<string, PromiseLeft>> {
  const left = await Promise.all(projects.map(({ project }) => readPromisesLeft(project, now)));
  return new Map(left.flatMap((of) => [...of]));
}

/** When open items are probably finished; of several projects that is not drawn together. */
async function probablyIn(
  viewer: Viewer,
  { place, projects: [access] }: Ground,
  now: Instant,
): Promise<(id: string) => Probably | null> {
  if (place !== null) return () => null;
  const { key, zone } = access.project;
  const today = dayNumber(now, zone);
  const { until } = await readUntil(viewer, key, now);
  const dayOf = (more: number | null) => (more === null ? null : isoDate(today + more));
  return (id) => until[id] && { sure: dayOf(until[id].sure), even: dayOf(until[id].even) };
}

/** The place of the first mark whose condition is true of a row. */
function markColumn({ marks }: CardFactsAsked["cards"], asker: ListAsker): SQL {
  if (marks.length === 0) return sql`null::int`;
  const cases = marks.map(
    ({ condition }, i) => sql`when ${compileCondition(condition, asker)} then ${i}::int`,
  );
  return sql`(case ${sql.join(cases, sql` `)} end)`;
}
