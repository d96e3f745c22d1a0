"use client";
import type { ReactNode } from "react";
import type { FactName } from "@/core/condition/facts";
import type { TableRow as Row } from "@/core/item/list/table";
import { Check } from "@/ui/kit/check";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { Cell, type CellFacts } from "./cell";
import { FIRST_FIELD, type DrawnColumn } from "./columns";
import type { Cells } from "./use-cells";

export interface RowPlace {
  line: number;
  top: number;
  height: number;
}

/** The part of a row that every line of the grid has: its place, and which of its cells has the focus. */
export const placeOf = ({ top, height }: RowPlace) => ({
  transform: `translateY(${top}px)`,
  height,
});

/** One item in a table. */
export function ItemRow({
  row,
  place,
  columns,
  facts,
  active,
  chosen,
  open,
  typedAt,
  editor,
  onChoose,
  onOpen,
  onPoint,
  onEdit,
}: {
  row: Row;
  place: RowPlace;
  columns: readonly DrawnColumn[];
  facts: CellFacts;
  /** The column that has the focus, where it is in this row. */
  active: number | null;
  chosen: boolean;
  /** Whether the item is open beside the table. */
  open: boolean;
  typedAt: Cells["typedAt"];
  /** What stands in the active cell while it is changed. */
  editor: ReactNode;
  onChoose: (run: boolean) => void;
  onOpen: () => void;
  onPoint: (column?: number) => void;
  onEdit: (column: number) => void;
}) {
  const { card, values } = row;
  const cell = (column: number, content: ReactNode, className = "") => (
    <span
      key={column}
      role="gridcell"
      aria-colindex={column + 1}
      tabIndex={active === column ? 0 : -1}
      data-cell={`${place.line}:${column}`}
      className={`lines-cell ${className}`}
      onClick={() => onPoint(column)}
      onFocus={() => onPoint(column)}
      onDoubleClick={() => onEdit(column)}
    >
      {editor !== null && active === column ? editor : content}
    </span>
  );
  const shown = (fact: FactName, given: (typeof values)[number]) => {
    const typed = typedAt(card.id, fact);
    return typed === undefined ? given : (typed as typeof given);
  };
  return (
    <div
      role="row"
      aria-rowindex={place.line + 2}
      aria-selected={chosen}
      data-row={card.key}
      data-item={card.key}
      data-active={active !== null}
      data-open={open}
      className="lines-row lines-line"
      style={placeOf(place)}
      onPointerMove={() => onPoint()}
    >
      {cell(
        0,
        <Check
          tabIndex={-1}
          aria-label={`Choose ${card.key}`}
          checked={chosen}
          onClick={(event) => {
            if (!event.shiftKey) return;
            event.preventDefault();
            onChoose(true);
          }}
          onChange={() => onChoose(false)}
        />,
      )}
      {cell(
        1,
        <button
          type="button"
          tabIndex={-1}
          className="key flex items-center gap-1.5"
          onClick={onOpen}
        >
          <TypeGlyph typeId={card.typeId} />
          {card.key}
        </button>,
      )}
      {cell(
        2,
        <button type="button" tabIndex={-1} className="lines-title" onClick={onOpen}>
          {String(shown("title", card.title))}
        </button>,
      )}
      {columns.map(({ fact, figures }, i) =>
        cell(
          i + FIRST_FIELD,
          <Cell card={card} fact={fact} value={shown(fact, values[i])} facts={facts} />,
          figures ? "figures justify-end" : "",
        ),
      )}
    </div>
  );
}

/** A row that is still on its way: its shape is there. */
export function WaitingRow({ place }: { place: RowPlace }) {
  return (
    <div
      role="row"
      aria-rowindex={place.line + 2}
      aria-busy="true"
      className="lines-row lines-line"
      style={placeOf(place)}
    >
      <span role="gridcell" className="lines-cell" />
      <span role="gridcell" className="lines-cell">
        <i className="waiting-word w-[70px]" />
      </span>
      <span role="gridcell" className="lines-cell">
        <i className="waiting-word w-[45%]" />
      </span>
    </div>
  );
}
