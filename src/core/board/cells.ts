import type { Column } from "./column";
import type { Lane } from "./lane";

/** What stands in each lane of each column, in its order. */
export type Cells<T> = ReadonlyMap<string, ReadonlyMap<string, readonly T[]>>;

/**
 * Puts the items of lanes into columns.
 * @param columnOf the column in which an item stands; null: in none
 * @param order how the items of one cell stand
 */
export function cellsOf<T>(
  lanes: readonly Lane<T>[],
  columnOf: (item: T) => Column | null,
  order: (items: readonly T[], column: Column) => readonly T[],
): Cells<T> {
  return new Map(
    lanes.map((lane) => {
      const found = new Map<Column, T[]>();
      for (const item of lane.items) {
        const column = columnOf(item);
        if (column === null) continue;
        const items = found.get(column);
        if (items) items.push(item);
        else found.set(column, [item]);
      }
      const cells = [...found].map(([column, items]) => [column.id, order(items, column)] as const);
      return [lane.id, new Map(cells)];
    }),
  );
}

/** What stands in one cell. */
export const inCell = <T>(
  cells: Cells<T>,
  lane: Pick<Lane<T>, "id">,
  column: Pick<Column, "id">,
): readonly T[] => cells.get(lane.id)?.get(column.id) ?? [];
