import { and, eq, sql } from "drizzle-orm";
import { keysIn } from "@/core/item/key";
import type { Reader } from "@/db/connection";
import { item, itemKey } from "@/db/schema";
import { hiddenAnywhere } from "../people/access";
import type { Viewer } from "../people/viewer";
import { hasKeyAmong } from "./key";

/** Of the keys in sentences that the product wrote, those of items that a person may not see. */
export async function hiddenKeys(
  reader: Reader,
  viewer: Viewer,
  sentences: readonly string[],
): Promise<ReadonlySet<string>> {
  if (viewer.administrator) return new Set();
  const told = [...new Set(sentences.flatMap(keysIn))];
  if (told.length === 0) return new Set();
  const rows = await reader
    .select({ key: sql<string>`${itemKey.prefix} || '-' || ${itemKey.number}` })
    .from(item)
    .innerJoin(itemKey, eq(itemKey.itemId, item.id))
    .where(and(hasKeyAmong(told), hiddenAnywhere(reader, viewer)));
  return new Set(rows.map((r) => r.key));
}
