"use client";
import { useDndMonitor } from "@dnd-kit/core";
import { useMemo, useState, type CSSProperties } from "react";
import type { BoardView } from "@/core/board/board-view";
import { stagesOf, type Column } from "@/core/board/column";
import type { BoardParts } from "./use-board-parts";
import type { FoldsHandle } from "./use-folds";

/** The columns that are drawn, and how. */
export interface DrawnColumns {
  columns: Column[];
  /** Those that are a strip, by their ids. What is carried over one opens it. */
  strips: ReadonlySet<string>;
  /** Those that begin a stage: they carry its name and the strong line. */
  firsts: ReadonlySet<string>;
  widths: CSSProperties;
}

const STRIP = "40px";
const WIDTHS = {
  working: "minmax(170px, 1.8fr)",
  waiting: "minmax(126px, 1.1fr)",
  finished: "minmax(126px, 0.9fr)",
};

/**
 * How wide the columns are: what is worked on gets the room, what waits is narrower; of columns by
 * values those that hold something get it.
 */
function widthsOf(
  { board }: BoardView,
  { columns, strips }: Pick<DrawnColumns, "columns" | "strips">,
  counts: Readonly<Record<string, number>>,
): CSSProperties {
  const ofValue = (column: Column) =>
    counts[column.id] > 0 || board.columnsBy === "free"
      ? "minmax(172px, 1fr)"
      : "minmax(104px, 0.5fr)";
  const width = (column: Column) =>
    board.columnsBy === "state" ? WIDTHS[column.part] : ofValue(column);
  const all = columns.map((column) => (strips.has(column.id) ? STRIP : width(column)));
  return { "--board-columns": all.join(" ") } as CSSProperties;
}

/** Which columns this person sees, and which are folded: one opens while a card is held over it. */
export function useDrawnColumns(
  view: BoardView,
  { columns: all, byStages, counts }: Pick<BoardParts, "columns" | "byStages" | "counts">,
  { folds, withAside }: Pick<FoldsHandle, "folds" | "withAside">,
): DrawnColumns {
  const [held, setHeld] = useState<string | null>(null);
  useDndMonitor({
    onDragOver: ({ over }) => {
      const { columnId } = (over?.data.current ?? {}) as { columnId?: string };
      setHeld(columnId ?? null);
    },
    onDragEnd: () => setHeld(null),
    onDragCancel: () => setHeld(null),
  });
  const [columns, strips] = useMemo(
    () => [
      all.filter(({ id, aside }) => !folds.hidden.includes(id) && (withAside || !aside)),
      new Set(folds.columns.filter((id) => id !== held)),
    ],
    [all, folds, withAside, held],
  );
  const firsts = useMemo(() => {
    const first = byStages ? stagesOf(columns).map((stage) => stage.columns[0]) : columns;
    return new Set(first.map(({ id }) => id));
  }, [byStages, columns]);
  const widths = widthsOf(view, { columns, strips }, counts);
  return { columns, strips, firsts, widths };
}
