"use client";
import { useDroppable } from "@dnd-kit/core";
import { limitTitle } from "@/core/board/board-limits";
import { columnWords, type Column } from "@/core/board/column";
import { limitState, limitWords, NO_LIMIT } from "@/core/board/limit";
import { limitTone } from "./limit-tone";
import type { ColumnHeld } from "./use-board-limits";

/** The head of a column that is folded: what it is called, and how full it is. A press opens it. */
export function ColumnStrip({
  column,
  held: { limit, count },
  defaultSize,
  onOpen,
}: {
  column: Column;
  held: ColumnHeld;
  /** What an item without a size counts for. */
  defaultSize: number;
  onOpen: () => void;
}) {
  const { setNodeRef } = useDroppable({
    id: `head of ${column.id}`,
    data: { columnId: column.id },
  });
  const bounds = limit ?? NO_LIMIT;
  const state = limitState(count, bounds);
  return (
    <button
      ref={setNodeRef}
      type="button"
      className="column-strip"
      data-head={column.id}
      title={limit ? limitTitle(limit, defaultSize) : undefined}
      aria-label={`${columnWords(column)}, ${limitWords(state, bounds)}, unfold`}
      onClick={onOpen}
    >
      <span>
        <b>{columnWords(column)}</b>{" "}
        <span className={limitTone(state)}>{limitWords(state, bounds)}</span>
      </span>
    </button>
  );
}
