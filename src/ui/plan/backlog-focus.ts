import type { KeyboardEvent } from "react";

/** The rows of a backlog, from the first to the last, whatever part they stand in. */
const rowsOf = (row: Element): HTMLElement[] => [
  ...(row.closest("[data-backlog]")?.querySelectorAll<HTMLElement>("[data-key]") ?? []),
];

/** The row above or below another, in the next part too. */
const rowBeside = (row: HTMLElement, by: -1 | 1): HTMLElement | undefined => {
  const rows = rowsOf(row);
  return rows[rows.indexOf(row) + by];
};

/** Puts the focus on the row above or below. @returns the key of its item; undefined where none is there */
export function focusBeside(row: HTMLElement, by: -1 | 1): string | undefined {
  const beside = rowBeside(row, by);
  beside?.focus();
  return beside?.dataset.key;
}

/** The cells of a row that can be changed, from left to right; those without room are not among them. */
const cellsOf = (row: HTMLElement): HTMLElement[] =>
  [...row.querySelectorAll<HTMLElement>("[data-column]")].filter((cell) => cell.offsetParent);

/** Puts the focus on the first cell of a row. */
export const focusFirstCell = (row: HTMLElement): void => cellsOf(row)[0]?.focus();

/** Puts the focus on a cell of a row. */
export const focusColumn = (row: HTMLElement | undefined, column: string): void =>
  row?.querySelector<HTMLElement>(`[data-column="${CSS.escape(column)}"]`)?.focus();

/**
 * Takes the focus from a cell to another: left, right, the same cell above or below, and with Escape
 * back to the row.
 * @returns whether it did
 */
export function focusCell({
  key,
  target,
  currentTarget: row,
}: KeyboardEvent<HTMLElement>): boolean {
  const cell = target as HTMLElement;
  const { column } = cell.dataset;
  if (column === undefined) return false;
  const cells = cellsOf(row);
  const at = cells.indexOf(cell);
  const acts: Record<string, () => void> = {
    ArrowLeft: () => (cells[at - 1] ?? row).focus(),
    ArrowRight: () => cells[at + 1]?.focus(),
    ArrowUp: () => focusColumn(rowBeside(row, -1), column),
    ArrowDown: () => focusColumn(rowBeside(row, 1), column),
    Escape: () => row.focus(),
  };
  acts[key]?.();
  return key in acts;
}
