import type { WaitsFor } from "./dependencies";

/** Where an item stands in the picture of what waits for what. */
export interface WaitingSpot {
  id: string;
  column: number;
  row: number;
}

/**
 * Places items that wait for each other: each in its column, those that hang together as one band of
 * rows, no two on one spot. Within a column they stand in the order of what they wait for, so that few
 * lines cross.
 * @param items in the order in which they are to stand where nothing else says so
 * @returns the spots, and how many rows there are
 */
export function waitingLayout(
  items: readonly { id: string; column: number }[],
  waits: readonly WaitsFor[],
): { spots: WaitingSpot[]; rows: number } {
  const spots: WaitingSpot[] = [];
  let top = 0;
  for (const band of bandsOf(items, waits)) {
    const rowOf = new Map<string, number>();
    let height = 0;
    const columns = [...new Set(band.map(({ column }) => column))].sort((a, b) => a - b);
    for (const column of columns) {
      const own = band.filter((one) => one.column === column);
      const wanted = new Map(own.map(({ id }, i) => [id, meanRow(id, waits, rowOf) ?? top + i]));
      own.sort((a, b) => wanted.get(a.id)! - wanted.get(b.id)!);
      own.forEach(({ id }, i) => {
        rowOf.set(id, top + i);
        spots.push({ id, column, row: top + i });
      });
      height = Math.max(height, own.length);
    }
    top += height;
  }
  return { spots, rows: top };
}

/** The mean row of what an item waits for, and of what waits for it, as far as they stand already. */
function meanRow(
  id: string,
  waits: readonly WaitsFor[],
  rowOf: ReadonlyMap<string, number>,
): number | null {
  const rows = waits.flatMap((one) => {
    const other = one.id === id ? one.forId : one.forId === id ? one.id : null;
    const row = other === null ? undefined : rowOf.get(other);
    return row === undefined ? [] : [row];
  });
  if (rows.length === 0) return null;
  return rows.reduce((sum, row) => sum + row, 0) / rows.length;
}

/** The items in bands that hang together, the larger ones first. */
function bandsOf<T extends { id: string }>(items: readonly T[], waits: readonly WaitsFor[]): T[][] {
  const bandOf = new Map(items.map(({ id }) => [id, id]));
  const headOf = (id: string): string => {
    let head = id;
    while (bandOf.get(head) !== head) head = bandOf.get(head)!;
    return head;
  };
  for (const { id, forId } of waits)
    if (bandOf.has(id) && bandOf.has(forId)) bandOf.set(headOf(id), headOf(forId));
  const bands = new Map<string, T[]>();
  for (const item of items) {
    const head = headOf(item.id);
    const band = bands.get(head);
    if (band) band.push(item);
    else bands.set(head, [item]);
  }
  return [...bands.values()].sort((a, b) => b.length - a.length);
}
