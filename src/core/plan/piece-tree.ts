/** What stands in a tree under something else of it. */
interface Node {
  id: string;
  parentId: string | null;
}

/** A row of a tree: something, how deep it stands, and whether anything stands under it. */
export interface TreeRow<T> {
  node: T;
  depth: number;
  parent: boolean;
}

/**
 * A tree in rows: each behind what it stands under, those of one parent in the order in which they
 * come. What is under something folded is left out. What stands in a circle, which is refused where
 * it is made, stands at the top once.
 * @example treeRows([{ id: "a", parentId: null }, { id: "b", parentId: "a" }], new Set()).map((r) => r.depth) // [0, 1]
 */
export function treeRows<T extends Node>(
  nodes: readonly T[],
  folded: ReadonlySet<string>,
): TreeRow<T>[] {
  const known = new Set(nodes.map(({ id }) => id));
  const below = new Map<string | null, T[]>();
  for (const node of nodes) {
    const parent = node.parentId !== null && known.has(node.parentId) ? node.parentId : null;
    below.set(parent, [...(below.get(parent) ?? []), node]);
  }
  const rows: TreeRow<T>[] = [];
  const placed = new Set<string>();
  const put = (node: T, depth: number, shown: boolean) => {
    if (placed.has(node.id)) return;
    placed.add(node.id);
    const own = below.get(node.id) ?? [];
    if (shown) rows.push({ node, depth, parent: own.length > 0 });
    for (const one of own) put(one, depth + 1, shown && !folded.has(node.id));
  };
  for (const node of below.get(null) ?? []) put(node, 0, true);
  for (const node of nodes) put(node, 0, true);
  return rows;
}

/** Whether something stands under something else, at whatever depth, or is it. */
export function isUnder(nodes: readonly Node[], id: string, top: string): boolean {
  const parents = new Map(nodes.map((node) => [node.id, node.parentId]));
  const seen = new Set<string>();
  for (let at: string | null = id; at !== null && !seen.has(at); at = parents.get(at) ?? null) {
    if (at === top) return true;
    seen.add(at);
  }
  return false;
}
