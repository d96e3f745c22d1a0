"use client";
import { useLayoutEffect, useRef, useState, type KeyboardEvent } from "react";
import type { TableLines } from "@/core/item/list/table-lines";

/** A cell: its line, and its column from the left. */
export interface ActiveCell {
  line: number;
  column: number;
}

interface Grid {
  lines: TableLines;
  columns: number;
  /** How many lines are a screen. */
  screen: () => number;
  scrollTo: (line: number) => void;
  /** What a key does to the cell that has the focus; whether it did anything. */
  act: (key: string, cell: ActiveCell, event: KeyboardEvent) => boolean;
}

const clamp = (value: number, most: number) => Math.max(0, Math.min(value, most));

/**
 * One cell of a grid has the focus; arrows, Home, End and the page keys move it, as the ARIA
 * Authoring Practices say for grids. The line under the pointer is the one that keys act on.
 */
export function useGridKeys({ lines, columns, screen, scrollTo, act }: Grid) {
  const [cell, setCell] = useState<ActiveCell>({ line: 0, column: 2 });
  const active: ActiveCell = {
    line: clamp(cell.line, lines.count - 1),
    column: clamp(cell.column, columns - 1),
  };
  // The cell may only be drawn once it was scrolled to.
  const wanted = useRef(false);
  useLayoutEffect(() => {
    if (!wanted.current) return;
    const place = `${active.line}:${active.column}`;
    const element = document.querySelector<HTMLElement>(`[data-cell="${place}"]`);
    if (!element) return;
    wanted.current = false;
    element.focus({ preventScroll: true });
  });
  const go = (to: ActiveCell) => {
    const next = {
      line: clamp(to.line, lines.count - 1),
      column: clamp(to.column, columns - 1),
    };
    setCell(next);
    scrollTo(next.line);
    wanted.current = true;
  };
  const moved = ({ key, ctrlKey }: KeyboardEvent): ActiveCell | null => {
    const { line, column } = active;
    const last = { line: lines.count - 1, column: columns - 1 };
    const to: Record<string, ActiveCell> = {
      ArrowUp: { line: line - 1, column },
      ArrowDown: { line: line + 1, column },
      ArrowLeft: { line, column: column - 1 },
      ArrowRight: { line, column: column + 1 },
      PageUp: { line: line - screen(), column },
      PageDown: { line: line + screen(), column },
      Home: ctrlKey ? { line: 0, column: 0 } : { line, column: 0 },
      End: ctrlKey ? last : { line, column: last.column },
    };
    return to[key] ?? null;
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.altKey || event.metaKey || lines.count === 0) return;
    if (act(event.key, active, event)) {
      event.preventDefault();
      event.stopPropagation();
      return;
    }
    const to = moved(event);
    if (!to) return;
    event.preventDefault();
    go(to);
  };
  return {
    active,
    go,
    onKeyDown,
    /** The pointer is over a line, or a cell was pressed. */
    point: (line: number, column?: number) =>
      setCell((before) =>
        before.line === line && (column === undefined || before.column === column)
          ? before
          : { line, column: column ?? before.column },
      ),
    /** The focus comes back to the cell that had it. */
    refocus: () => {
      wanted.current = true;
      setCell((before) => ({ ...before }));
    },
  };
}

export type GridKeys = ReturnType<typeof useGridKeys>;
