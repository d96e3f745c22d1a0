import type { ColumnsBy } from "./columns-by";

/** How items that stand under others of the same board are shown. */
export const CHILDREN_SHOWN = ["as cards", "under their parent", "as a count"] as const;
export type ChildrenShown = (typeof CHILDREN_SHOWN)[number];

/** How a board shows them unless its view says otherwise: a sprint is planned by its stories. */
export const usualChildren = (columnsBy: ColumnsBy): ChildrenShown =>
  columnsBy === "sprint" ? "under their parent" : "as cards";

interface Child {
  id: string;
  parentId: string | null;
}

/** The items that are drawn: all, or those alone that stand under no other one of them. */
export function drawnOf<T extends Child>(items: readonly T[], shown: ChildrenShown): T[] {
  if (shown !== "as a count") return [...items];
  const ids = new Set(items.map((item) => item.id));
  return items.filter(({ parentId }) => parentId === null || !ids.has(parentId));
}

/** Those of one place whose parent stands there too, by their ids. */
export function idsUnder(items: readonly Child[]): string[] {
  const ids = new Set(items.map((item) => item.id));
  return items
    .filter(({ parentId }) => parentId !== null && ids.has(parentId))
    .map((item) => item.id);
}

/** The items of one place with each directly below its parent, where that stands there too. */
export function underParents<T extends Child>(items: readonly T[]): T[] {
  const ids = new Set(items.map((item) => item.id));
  const below = new Map<string, T[]>();
  for (const item of items)
    if (item.parentId !== null && ids.has(item.parentId))
      below.set(item.parentId, [...(below.get(item.parentId) ?? []), item]);
  const placed = new Set<string>();
  const place = (item: T): T[] => {
    if (placed.has(item.id)) return [];
    placed.add(item.id);
    return [item, ...(below.get(item.id) ?? []).flatMap(place)];
  };
  const tops = items.filter(({ parentId }) => parentId === null || !ids.has(parentId));
  // Items that stand under each other in a circle have no top; they are not lost.
  return [...tops, ...items].flatMap(place);
}
