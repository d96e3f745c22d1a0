import { and, eq, isNull, sql, type SQL } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import { CARD_FIELDS, cardOf, type Card } from "@/core/board/card";
import { pick } from "@/core/item/pick";
import type { Reader } from "@/db/connection";
import { readMany } from "@/db/read-many";
import { item } from "@/db/schema";
import type { Ground } from "../../across/ground";
import { seesItem } from "../../people/access";
import type { Viewer } from "../../people/viewer";

/** The columns that a card is made of. */
const CARD_COLUMNS = pick(item, [
  ...CARD_FIELDS,
  "projectId",
  "number",
  "howToTest",
  "withdrawnAt",
]);

/** The cards of items, best first. */
export async function cardsWhere(
  reader: Reader,
  { keyOf }: Pick<Ground, "keyOf">,
  where: SQL | undefined,
): Promise<Card[]> {
  const tail = sql`where ${where ?? sql`true`} order by ${item.rank}, ${item.number}`;
  const rows = await readMany(reader, item, CARD_COLUMNS, tail);
  return rows.map((row) => cardOf(row, keyOf(row.projectId)));
}

/** The items of a project that have others under them, as far as a person sees both. */
export async function parentsSeen(
  reader: Reader,
  viewer: Viewer,
  project: { id: string; key: string },
): Promise<{ id: string; name: string }[]> {
  const child = alias(item, "child");
  const rows = await reader
    .selectDistinct({ id: item.id, number: item.number, title: item.title })
    .from(item)
    .innerJoin(child, eq(child.parentId, item.id))
    .where(
      and(
        eq(item.projectId, project.id),
        isNull(item.withdrawnAt),
        isNull(child.withdrawnAt),
        seesItem(reader, viewer),
        seesItem(reader, viewer, child),
      ),
    )
    .orderBy(item.number);
  return rows.map((r) => ({ id: r.id, name: `${project.key}-${r.number} ${r.title}` }));
}
