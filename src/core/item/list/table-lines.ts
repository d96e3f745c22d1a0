import type { TableGroup } from "./table";

/**
 * A line of a table: the head of a group, or a row of one by its place in the whole list, from 0.
 */
export type TableLine =
  { kind: "group"; group: number } | { kind: "row"; group: number; row: number };

/** Which lines a table has, its closed groups taken as their heads alone. */
export interface TableLines {
  count: number;
  at: (line: number) => TableLine;
}

/**
 * The lines of a table with groups. Looking a line up is a search among the groups, so that a
 * hundred thousand rows cost no more than their groups.
 * @param grouped without groups every line is a row
 * @param isClosed by the place of the group
 */
export function tableLines(
  groups: readonly Pick<TableGroup, "count">[],
  grouped: boolean,
  isClosed: (group: number) => boolean,
): TableLines {
  const heads = grouped ? 1 : 0;
  const begins: { line: number; row: number }[] = [];
  let [line, row] = [0, 0];
  groups.forEach(({ count }, group) => {
    const open = isClosed(group) ? 0 : count;
    begins.push({ line, row });
    line += heads + open;
    row += count;
  });
  const groupOn = (wanted: number): number => {
    let [low, high] = [0, begins.length - 1];
    while (low < high) {
      const middle = Math.ceil((low + high) / 2);
      if (begins[middle].line <= wanted) low = middle;
      else high = middle - 1;
    }
    return low;
  };
  return {
    count: line,
    at: (wanted) => {
      const group = groupOn(wanted);
      const into = wanted - begins[group].line - heads;
      return into < 0
        ? { kind: "group", group }
        : { kind: "row", group, row: begins[group].row + into };
    },
  };
}
