"use client";
import { useState, type ReactNode } from "react";
import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import { columnWords, type Column } from "@/core/board/column";
import type { Lane } from "@/core/board/lane";
import { columnMeaning } from "@/core/board/place-meaning";
import type { Adding } from "@/core/item/adding/contract";
import { AddLine } from "@/ui/adding/add-line";
import { AT_THE_BEGINNING, type AddPlace } from "@/ui/adding/use-adding";
import { sendCommand } from "@/ui/item/send-command";
import type { LookHandle } from "@/ui/view/use-look";
import { JoinLine } from "./join-line";
import type { ColumnMoves } from "./use-columns";
import type { Moves } from "./use-moves";

/** Where on a board something is added: in a cell, in a lane as a whole, or in the bay beside it. */
export interface AddingAt {
  laneId: string | null;
  columnId: string | null;
  at: AddPlace["at"];
}

type LaneOf = Pick<Lane<Card>, "id" | "name" | "meaning" | "parentId">;

/** Adding on a board: which place is open, and the line that is written into there. */
export function useBoardAdding({
  handle,
  view,
  putCard,
  moves,
  goes,
}: {
  handle: LookHandle;
  view: BoardView;
  putCard: (card: Card) => void;
  moves: Moves;
  goes: ColumnMoves;
}) {
  const [open, setOpen] = useState<AddingAt | null>(null);
  const leave = () => setOpen(null);
  const { columnsBy } = view.board;

  const placeOf = (cell: LaneOf | null, column: Column | null, at: AddPlace["at"]): AddPlace => {
    // At the head of a column stands whatever comes into it, in whichever lane that is.
    const lane = column && at === "head" ? null : cell;
    const where = [column && columnWords(column), lane && lane.id !== "everything" && lane.name];
    const name = where.filter(Boolean).join(", ") || "the backlog";
    const meanings = [
      ...(lane?.meaning ? [lane.meaning] : []),
      ...(column ? [columnMeaning(columnsBy, column)] : []),
    ];
    return {
      ...AT_THE_BEGINNING,
      meaning: { kind: "all", of: meanings },
      states: columnsBy === "state" && column ? column.stateIds : [],
      parentId: columnsBy === "parent" ? (column?.value ?? null) : (lane?.parentId ?? null),
      at,
      words: `the ${at} of ${name}`,
    };
  };

  const settle = async (card: Card, { into }: Adding, column: Column | null, at: string) => {
    putCard(card);
    if (columnsBy === "free" && column) return goes.place(card, column);
    if (into) await moves.moveTo(card, into.to, into.verb);
    if (at === "head") putCard((await sendCommand(card.id, { kind: "place", below: null })).card);
  };

  /** The line that is open at a place; null: none is. */
  const line = (lane: LaneOf | null, column: Column | null, at: AddPlace["at"]): ReactNode => {
    const isOpen =
      open !== null &&
      open.laneId === (lane?.id ?? null) &&
      open.columnId === (column?.id ?? null) &&
      open.at === at;
    if (!isOpen) return null;
    return (
      <>
        <AddLine
          handle={handle}
          place={placeOf(lane, column, at)}
          onMade={(card, adding) => settle(card, adding, column, at)}
          onLeave={leave}
        />
        {columnsBy === "free" && column && (
          <JoinLine view={view} onJoin={(card) => void goes.place(card, column)} onLeave={leave} />
        )}
      </>
    );
  };
  return {
    may: view.rights.add,
    open: (lane: LaneOf | null, column: Column | null, at: AddPlace["at"]) =>
      setOpen({ laneId: lane?.id ?? null, columnId: column?.id ?? null, at }),
    line,
  };
}

export type BoardAdding = ReturnType<typeof useBoardAdding>;
