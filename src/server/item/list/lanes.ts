import { sql, type SQL } from "drizzle-orm";
import { NOTHING_TOLD, type LanesTold } from "@/core/board/lane";
import { lanesFacts, type LanesBy } from "@/core/board/lanes-by";
import { EVERY_ITEM } from "@/core/condition/condition";
import { factOf } from "@/core/condition/facts";
import type { LanesAsked } from "@/core/item/list/lanes";
import { item } from "@/db/schema";
import { compileCondition } from "../../condition/compile";
import type { Viewer } from "../../people/viewer";
import { enterList, namedOf, narrowed } from "./enter";
import { groupColumn, listedColumn, type ListAsker } from "./key";
import { parentsOf } from "./parents";

/**
 * In which lane each item that a person sees on a board stands, where its card does not say it, and
 * what the items are called that others stand under.
 */
export async function readLanes(
  viewer: Viewer,
  projectKey: string,
  { board, lanes: { by }, of: ids }: LanesAsked,
  now = Date.now(),
): Promise<LanesTold> {
  if (by.kind === "none") return NOTHING_TOLD;
  const entered = await enterList(viewer, projectKey, now);
  const asked = ids === null ? entered : { ...entered, seen: namedOf(entered, ids) };
  const of = await narrowed(asked, EVERY_ITEM, { board, facts: lanesFacts({ by }) });
  if (by.kind === "parent") {
    const parents = await parentsOf(of, viewer, entered.ground);
    const names = parents.map(({ id, key, title }) => [id, `${key} ${title}`]);
    return { keys: {}, names: Object.fromEntries(names) };
  }
  const { rows } = await of.reader.execute<{ id: string; key: unknown }>(
    sql`select ${item.id}, ${laneColumn(by, of.asker)} as key from ${item} where ${of.where ?? sql`true`} order by 1`,
  );
  // What is not named is in no lane; of those that are asked after by name that is said.
  const told = ids === null ? rows.filter(({ key }) => key !== null) : rows;
  const keys = told.map(({ id, key }) => [id, key === null ? null : String(key)] as const);
  return { keys: Object.fromEntries(keys), names: {} };
}

/** The lane of a row: the place of the first condition that is true of it, or its value. */
function laneColumn(by: Extract<LanesBy, { kind: "conditions" | "field" }>, asker: ListAsker): SQL {
  if (by.kind === "conditions") {
    const cases = by.of.map(
      ({ condition }, i) => sql`when ${compileCondition(condition, asker)} then ${String(i)}::text`,
    );
    return sql`(case ${sql.join(cases, sql` `)} end)`;
  }
  return factOf(by.fact).kind === "set"
    ? sql`${listedColumn(by.fact, asker)} ->> 0`
    : groupColumn(by.fact, asker);
}
