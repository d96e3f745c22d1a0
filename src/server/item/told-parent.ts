import { and, inArray } from "drizzle-orm";
import type { Reader } from "@/db/connection";
import { item } from "@/db/schema";
import { hiddenFrom } from "../people/access";
import type { Doer } from "../people/viewer";

/**
 * Items as a reader is told them: under a parent that they may not see an item stands, for them,
 * under none.
 */
export async function toldParents<T extends { parentId: string | null }>(
  reader: Reader,
  viewer: Doer,
  items: readonly T[],
): Promise<T[]> {
  const parents = [...new Set(items.flatMap((i) => i.parentId ?? []))];
  if (parents.length === 0 || viewer.administrator) return [...items];
  const hidden = new Set(
    (
      await reader
        .select({ id: item.id })
        .from(item)
        .where(and(inArray(item.id, parents), hiddenFrom(reader, viewer)))
    ).map((r) => r.id),
  );
  return hidden.size === 0
    ? [...items]
    : items.map((i) =>
        i.parentId !== null && hidden.has(i.parentId) ? { ...i, parentId: null } : i,
      );
}

/** The same for one. */
export async function toldParent<T extends { parentId: string | null }>(
  reader: Reader,
  viewer: Doer,
  told: T,
): Promise<T> {
  return (await toldParents(reader, viewer, [told]))[0];
}
