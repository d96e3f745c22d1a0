import { and, inArray } from "drizzle-orm";
import type { BulkItems } from "@/core/item/bulk/contract";
import { MOST_IN_JOB } from "@/core/item/bulk/contract";
import { item } from "@/db/schema";
import { invalid } from "../../refused";
import { narrowed, type EnteredList } from "../list/enter";
import { readListPage } from "../list/read";
import { PLAIN_LIST } from "@/core/item/list/query";

/**
 * The items that are meant, in their order, as far as the person may see them: named ones as they
 * were named, others by rank.
 */
export async function itemsMeant(entered: EnteredList, items: BulkItems): Promise<string[]> {
  const { seen } = entered;
  if ("ids" in items) {
    const ids = [...new Set(items.ids)];
    const found = await seen.reader
      .select({ id: item.id })
      .from(item)
      .where(and(seen.where, inArray(item.id, ids)));
    const there = new Set(found.map((row) => row.id));
    return ids.filter((id) => there.has(id));
  }
  const of = await narrowed(entered, items.condition, items.board);
  const { ids, next } = await readListPage(of, PLAIN_LIST, { after: null, limit: MOST_IN_JOB });
  if (next !== null)
    throw invalid(
      `More than ${MOST_IN_JOB.toLocaleString("en")} items cannot be changed at once.`,
      "Narrow down what is shown.",
    );
  return ids;
}
