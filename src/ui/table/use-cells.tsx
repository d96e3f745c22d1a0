"use client";
import { useState, type ReactNode } from "react";
import type { FactName } from "@/core/condition/facts";
import { factLabel } from "@/core/condition/vocabulary";
import type { TableRow } from "@/core/item/list/table";
import type { LookHandle } from "@/ui/view/use-look";
import { CellEditor, MoveEditor, type GoesOn } from "./cell-editor";
import { FIRST_FIELD, TITLE, type DrawnColumn } from "./columns";
import { editOf, useCellEdit } from "./use-cell-edit";

/** The cell that is being changed, and the control that stands in it. */
export function useCells({
  handle: { views },
  columns,
  readAgain,
  openItem,
}: {
  handle: LookHandle;
  columns: readonly DrawnColumn[];
  readAgain: () => Promise<unknown>;
  openItem: (key: string) => void;
}) {
  const { vocabulary, rights } = views;
  const [editing, setEditing] = useState(false);
  const edit = useCellEdit(readAgain, vocabulary);
  const factAt = (column: number): FactName | null =>
    column === TITLE ? "title" : (columns[column - FIRST_FIELD]?.fact ?? null);
  /** Begins to change a cell, or opens the item where that cannot be. */
  const start = (row: TableRow | undefined, column: number) => {
    if (!row) return;
    const fact = factAt(column);
    if (fact !== null && editOf(fact, rights)) setEditing(true);
    else openItem(row.card.key);
  };
  const editorFor = (row: TableRow, column: number, goOn: (goesOn: GoesOn) => void): ReactNode => {
    const fact = factAt(column);
    if (fact === null) return null;
    const leave = (goesOn: GoesOn = null) => {
      setEditing(false);
      goOn(goesOn);
    };
    if (editOf(fact, rights) === "move")
      return (
        <MoveEditor
          row={row}
          onLeave={() => leave()}
          onMove={(to, toName) => {
            leave();
            void edit.move(row, to, toName, () => openItem(row.card.key));
          }}
        />
      );
    const value = fact === "title" ? row.card.title : row.values[column - FIRST_FIELD];
    return (
      <CellEditor
        row={row}
        fact={fact}
        value={value}
        vocabulary={vocabulary}
        onStore={(next, goesOn) => {
          leave(goesOn);
          void edit.store(row, fact, next, factLabel(fact, vocabulary));
        }}
        onLeave={() => leave()}
      />
    );
  };
  return { editing, start, editorFor, typedAt: edit.typedAt };
}

export type Cells = ReturnType<typeof useCells>;
