import { and, asc, eq, isNotNull, isNull, sql, type SQL } from "drizzle-orm";
import type { AroundItems } from "@/core/board/around";
import { CARD_FIELDS, cardOf, type Card } from "@/core/board/card";
import { pick } from "@/core/item/pick";
import type { Reader } from "@/db/connection";
import { item } from "@/db/schema";
import { seesItem } from "../../people/access";
import type { Viewer } from "../../people/viewer";

/** The columns that a card is made of. */
const CARD_COLUMNS = pick(item, [...CARD_FIELDS, "number", "howToTest", "withdrawnAt"]);

/** The cards of items of a project, best first. */
export async function cardsWhere(
  reader: Reader,
  project: { key: string },
  where: SQL | undefined,
  most?: number,
): Promise<Card[]> {
  const ranked = reader
    .select(CARD_COLUMNS)
    .from(item)
    .where(where)
    .orderBy(asc(item.rank), asc(item.number));
  const rows = await (most === undefined ? ranked : ranked.limit(most));
  return rows.map((row) => cardOf(row, project.key));
}

/** What is ranked behind an item; nothing where a person may not see that one. */
export const behindItem = (reader: Reader, viewer: Viewer, id: string): SQL =>
  sql`(${item.rank}, ${item.number}) > (${reader
    .select({ rank: item.rank, number: item.number })
    .from(item)
    .where(and(eq(item.id, id), seesItem(reader, viewer)))})`;

/** What a person may see around some items. */
export async function aroundItems(
  reader: Reader,
  viewer: Viewer,
  ids: readonly string[],
): Promise<AroundItems> {
  if (ids.length === 0) return {};
  const rows = await reader
    .select({
      parentId: item.parentId,
      children: sql<number>`count(*)::int`,
      finishedChildren: sql<number>`(count(*) filter (where ${item.stateKind} = 'finished'))::int`,
    })
    .from(item)
    .where(
      and(
        isNotNull(item.parentId),
        sql`${item.parentId} = any(${sql.param([...ids])}::uuid[])`,
        isNull(item.withdrawnAt),
        seesItem(reader, viewer),
      ),
    )
    .groupBy(item.parentId);
  return Object.fromEntries(rows.map(({ parentId, ...around }) => [parentId, around]));
}
