import { and, inArray } from "drizzle-orm";
import type { OpenBlocker } from "@/core/item/fields";
import type { Reader } from "@/db/connection";
import { item } from "@/db/schema";
import { hiddenAnywhere } from "../people/access";
import type { Principal } from "../people/viewer";

/** What of an item names other items by their ids. */
interface NamingOthers {
  parentId: string | null;
  openBlockers: OpenBlocker[];
}

const othersOf = ({ parentId, openBlockers }: NamingOthers): string[] =>
  [parentId, ...openBlockers.map((b) => b.dependencyId)].filter((id) => typeof id === "string");

/**
 * Items as a reader is told them: under a parent that they may not see an item stands, for them,
 * under none, and what it waits for is not named.
 */
export async function withVisibleOthers<T extends NamingOthers>(
  reader: Reader,
  viewer: Principal,
  items: readonly T[],
): Promise<T[]> {
  const others = [...new Set(items.flatMap(othersOf))];
  if (others.length === 0 || viewer.administrator) return [...items];
  const hidden = new Set(
    (
      await reader
        .select({ id: item.id })
        .from(item)
        .where(and(inArray(item.id, others), hiddenAnywhere(reader, viewer)))
    ).map((r) => r.id),
  );
  if (hidden.size === 0) return [...items];
  return items.map((told) =>
    othersOf(told).some((id) => hidden.has(id)) ? withoutOthers(told, hidden) : told,
  );
}

const withoutOthers = <T extends NamingOthers>(told: T, hidden: ReadonlySet<string>): T => ({
  ...told,
  parentId: told.parentId !== null && hidden.has(told.parentId) ? null : told.parentId,
  openBlockers: told.openBlockers.map((blocker) =>
    typeof blocker.dependencyId === "string" && hidden.has(blocker.dependencyId)
      ? { ...blocker, dependencyId: null }
      : blocker,
  ),
});

/** The same for one. */
export async function withVisibleOther<T extends NamingOthers>(
  reader: Reader,
  viewer: Principal,
  told: T,
): Promise<T> {
  return (await withVisibleOthers(reader, viewer, [told]))[0];
}
