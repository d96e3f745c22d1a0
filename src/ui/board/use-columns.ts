"use client";
import { useCallback, useState } from "react";
import type { Card } from "@/core/board/card";
import type { Column } from "@/core/board/column";
import { areValues, changeFor, standsIn, whyNoDrop } from "@/core/board/columns-by";
import { projectKeyOf } from "@/core/item/key";
import { stateOf, transitionsFrom, type Transition } from "@/core/workflow/workflow";
import type { Moves } from "./use-moves";
import type { BoardView } from "@/core/board/board-view";
import { usePlace, type SetPlace } from "./use-place";

/** Several moves lead from where a card is into the column it was dropped on. */
export interface Choosing {
  cardId: string;
  column: Column;
  options: { to: string; verb: string; stateName: string }[];
}

/** Whether a person's column is one that an item can go into: whoever works in its project. */
const isOffered = ({ board, membersOf }: BoardView, card: Card, { value }: Column): boolean =>
  membersOf === null ||
  board.columnsBy !== "assignee" ||
  !value ||
  (membersOf[projectKeyOf(card.key)]?.includes(value) ?? false);

const whyNotOffered = (view: BoardView, card: Card, column: Column): string | null =>
  isOffered(view, card, column)
    ? null
    : `${column.stage} does not work in ${projectKeyOf(card.key)}: only its members get its items.`;

/**
 * What columns mean on a board: where a card stands, where it can go, and what going there does. On
 * a board of the process that is a move; by a field's values it changes that field; on a free board
 * it changes nothing but the place.
 */
export function useColumns(
  view: BoardView,
  { moveTo, workflowOf, send, refuse }: Pick<Moves, "moveTo" | "workflowOf" | "send" | "refuse">,
  setPlace: SetPlace,
) {
  const [choosing, setChoosing] = useState<Choosing | null>(null);
  const { columnsBy } = view.board;
  const stands = useCallback(
    (card: Card, column: Column) => standsIn(view.board, column, card),
    [view.board],
  );

  /** The moves from where a card is into a column's states. */
  const movesInto = useCallback(
    (card: Card, column: Column): Transition[] => {
      const workflow = workflowOf(card);
      if (!workflow || columnsBy !== "state" || column.stateIds.includes(card.stateId)) return [];
      return transitionsFrom(workflow, card.stateId).filter((t) => column.stateIds.includes(t.to));
    },
    [workflowOf, columnsBy],
  );

  const canEnter = useCallback(
    (card: Card, column: Column): boolean => {
      if (columnsBy === "state") return movesInto(card, column).length > 0;
      if (columnsBy === "free") return view.rights.move;
      return areValues(columnsBy) && view.rights.edit && isOffered(view, card, column);
    },
    [columnsBy, movesInto, view],
  );

  const change = useCallback(
    async (card: Card, column: Column) => {
      const value = column.value ?? null;
      const changes = areValues(columnsBy) ? changeFor(columnsBy, value, card) : null;
      const command = changes
        ? ({ kind: "edit", seenVersion: card.version, changes } as const)
        : ({
            kind: "put under",
            parentKey: value === null ? null : column.stage.split(" ")[0],
          } as const);
      const shown = changes ?? { parentId: value };
      await send({ card, shown, command, done: `${card.key}: ${column.stage}.` });
    },
    [columnsBy, send],
  );

  const place = usePlace(view, setPlace);

  /**
   * Takes a card into a column; where several moves lead there, the choice is offered at the card.
   */
  const enter = useCallback(
    (card: Card, column: Column, below: Card | null = null) => {
      if (columnsBy === "free") return void place(card, column, below);
      if (stands(card, column)) return;
      const why = whyNoDrop(columnsBy) ?? whyNotOffered(view, card, column);
      if (why !== null) return refuse(card, why);
      if (columnsBy !== "state") return void change(card, column);
      const moves = movesInto(card, column);
      const workflow = workflowOf(card);
      if (moves.length > 1 && workflow)
        return setChoosing({
          cardId: card.id,
          column,
          options: moves.map((t) => ({
            to: t.to,
            verb: t.verb,
            stateName: stateOf(workflow, t.to).name,
          })),
        });
      // Without a move the server is asked all the same: its refusal names the moves that exist.
      void moveTo(
        card,
        moves[0]?.to ??
          column.stateIds.find((id) => workflow?.states.some((s) => s.id === id)) ??
          column.stateIds[0],
        moves[0]?.verb ?? "Move",
      );
    },
    [view, columnsBy, stands, change, place, movesInto, workflowOf, moveTo, refuse],
  );
  return { stands, canEnter, enter, place, choosing, setChoosing };
}

export type ColumnMoves = ReturnType<typeof useColumns>;
