import { and, inArray } from "drizzle-orm";
import type { Reader } from "@/db/connection";
import { item } from "@/db/schema";
import { hiddenFrom } from "../people/access";
import type { Principal } from "../people/viewer";

/**
 * Items as a reader is told them: under a parent that they may not see an item stands, for them,
 * under none.
 */
export async function withVisibleParents<T extends { parentId: string | null }>(
  reader: Reader,
  viewer: Principal,
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
export async function withVisibleParent<T extends { parentId: string | null }>(
  reader: Reader,
  viewer: Principal,
  told: T,
): Promise<T> {
  return (await withVisibleParents(reader, viewer, [told]))[0];
}
