"use client";
import type { KeyboardEvent } from "react";
import type { Card } from "@/core/board/card";
import type { Lines } from "./use-lines";
import type { ChosenHandle } from "./use-chosen";
import { TITLE } from "./columns";
import type { Cells } from "./use-cells";
import type { ActiveCell } from "./use-grid-keys";

/** What the keys of a table do to the line they are pressed on; whether they did anything. */
export function tableActs({
  at: { lines, rowAt, rowOn, isClosed, turnGroup },
  chosen,
  cells,
  openItem,
  goTo,
  add,
  takeGroup,
  addTo,
  pin,
}: {
  at: Omit<Lines, "scroller">;
  chosen: ChosenHandle;
  cells: Cells;
  openItem: (key: string) => void;
  goTo: (cell: ActiveCell) => void;
  /** Opens what adds to a group; null: to the foot of the table. */
  add: (group: number | null) => void;
  /** Chooses all of a group. */
  takeGroup: (group: number) => void;
  /** Opens what adds to an item. */
  addTo: (card: Card) => void;
  pin: (card: Card) => void;
}) {
  const onGroup = (key: string, group: number): boolean => {
    if (key === "a" || key === "x") {
      (key === "a" ? add : takeGroup)(group);
      return true;
    }
    const closed = isClosed(group);
    const turns =
      key === "Enter" ||
      key === " " ||
      (key === "ArrowLeft" && !closed) ||
      (key === "ArrowRight" && closed);
    if (turns) turnGroup(group);
    return turns || key === "ArrowLeft" || key === "ArrowRight";
  };
  /** A run of rows grows by one, over the heads of groups too. */
  const grow = (by: 1 | -1, { line, column }: ActiveCell): void => {
    const next = Math.max(0, Math.min(lines.count - 1, line + by));
    const [from, to] = [lines.at(line), lines.at(next)];
    const begin = chosen.from ?? (from.kind === "row" ? from.row : null);
    if (to.kind === "row") chosen.run(begin ?? to.row, to.row);
    goTo({ line: next, column });
  };
  return (key: string, cell: ActiveCell, event: KeyboardEvent): boolean => {
    const { line, column } = cell;
    if (cells.editing) return false;
    if (event.ctrlKey) {
      if (key !== "c") return false;
      void chosen.copy(rowOn(line));
      return true;
    }
    if (event.shiftKey && (key === "ArrowDown" || key === "ArrowUp")) {
      grow(key === "ArrowDown" ? 1 : -1, cell);
      return true;
    }
    const at = lines.at(line);
    if (at.kind === "group") return onGroup(key, at.group);
    const row = rowAt(at.row);
    if (!row) return false;
    const acts: Record<string, () => void> = {
      x: () => chosen.turn(at.row),
      X: () => chosen.runTo(at.row),
      " ": () => (event.shiftKey ? chosen.runTo(at.row) : chosen.turn(at.row)),
      a: () => add(null),
      u: () => addTo(row.card),
      p: () => pin(row.card),
      o: () => openItem(row.card.key),
      Enter: () => (column === TITLE ? openItem(row.card.key) : cells.start(row, column)),
      F2: () => cells.start(row, column),
    };
    if (!Object.hasOwn(acts, key)) return false;
    acts[key]();
    return true;
  };
}
