import type { BulkItems } from "@/core/item/bulk/contract";
import { MOST_IN_JOB } from "@/core/item/bulk/contract";
import { invalid } from "../../refused";
import { namedOf, narrowed, type EnteredList } from "../list/enter";
import { readListPage } from "../list/read";
import { PLAIN_LIST } from "@/core/item/list/query";

/**
 * The items that are meant, in their order, as far as the person may see them: named ones as they
 * were named, others by rank.
 */
export async function itemsMeant(entered: EnteredList, items: BulkItems): Promise<string[]> {
  const whole = { after: null, limit: MOST_IN_JOB };
  if ("ids" in items)
    return (await readListPage(namedOf(entered, items.ids), PLAIN_LIST, whole)).ids;
  const of = await narrowed(entered, items.condition, { board: items.board });
  const { ids, next } = await readListPage(of, PLAIN_LIST, whole);
  if (next !== null)
    throw invalid(
      `More than ${MOST_IN_JOB.toLocaleString("en")} items cannot be changed at once.`,
      "Narrow down what is shown.",
    );
  return ids;
}
