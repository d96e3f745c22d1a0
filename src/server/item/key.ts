import { eq, sql, type SQL } from "drizzle-orm";
import { parseItemKey, type ItemKey } from "@/core/item/key";
import type { Transaction } from "@/db/connection";
import { item, itemKey, project } from "@/db/schema";

/*
 * Every key that an item has or ever had leads to it: moving an item, or renaming its project, gives
 * it another and takes none away, and none is given twice.
 */

/** The key that an item is called by now, as a column over the rows of `item`. */
export const keyColumn = sql<string>`((select ${project.key} from ${project} where ${project.id} = ${item.projectId}) || '-' || ${item.number})`;

/** Takes the next number of a project for an item; none is given twice. */
export async function takeNumber(tx: Transaction, projectId: string): Promise<number> {
  const [{ number }] = await tx
    .update(project)
    .set({ nextItemNumber: sql`${project.nextItemNumber} + 1` })
    .where(eq(project.id, projectId))
    .returning({ number: sql<number>`${project.nextItemNumber} - 1` });
  return number;
}

/** As a condition on `item`: it has, or had, one of some keys. */
export function hasKey(keys: readonly ItemKey[]): SQL {
  if (keys.length === 0) return sql`false`;
  const wanted = sql.join(
    keys.map(({ prefix, number }) => sql`(${prefix}, ${number}::int)`),
    sql`, `,
  );
  return sql`${item.id} in (select k.item_id from ${itemKey} k where (k.prefix, k.number) in (${wanted}))`;
}

/** The same of keys as people write them; what is no key is passed over. */
export const hasKeyAmong = (keys: readonly string[]): SQL =>
  hasKey(keys.flatMap((key) => parseItemKey(key) ?? []));
