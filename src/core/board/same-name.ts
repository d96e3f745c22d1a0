import type { Column } from "./column";

const bare = (words: string) => words.trim().toLowerCase();

/** The first column that is called like one before it, by stage and part; null where none is. */
export function twinColumn<C extends Pick<Column, "stage" | "name">>(
  columns: readonly C[],
): C | null {
  const seen = new Set<string>();
  for (const column of columns) {
    const called = `${bare(column.stage)} / ${bare(column.name)}`;
    if (seen.has(called)) return column;
    seen.add(called);
  }
  return null;
}

/** The other board of this name; undefined where there is none. */
export const twinBoard = <B extends { id: string; name: string }>(
  boards: readonly B[],
  board: Pick<B, "id" | "name">,
): B | undefined => boards.find((b) => b.id !== board.id && bare(b.name) === bare(board.name));
