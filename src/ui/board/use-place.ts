"use client";
import { generateKeyBetween } from "fractional-indexing";
import { useCallback } from "react";
import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import type { Column } from "@/core/board/column";
import { boardContract } from "@/core/board/contract";
import { compareRanks } from "@/core/item/rank";
import { tellProblem } from "@/ui/kit/notice";
import { ask } from "@/ui/kit/request";

/** Where a card of a free board is drawn, before the server has said so. */
export type SetPlace = (itemId: string, place: { columnId: string; rank: string } | null) => void;

/** Puts a card into a list of a free board, below another one; null takes it off the board. */
export function usePlace(view: BoardView, setPlace: SetPlace) {
  return useCallback(
    async (card: Card, column: Column | null, below: Card | null = null) => {
      const before = view.board.places[card.id] ?? null;
      const inList = Object.entries(view.board.places)
        .filter(([id, p]) => p.columnId === column?.id && id !== card.id)
        .sort(([, a], [, b]) => compareRanks(a.rank, b.rank));
      const at = below ? inList.findIndex(([id]) => id === below.id) : -1;
      const between = () =>
        generateKeyBetween(inList[at]?.[1].rank ?? null, inList[at + 1]?.[1].rank ?? null);
      setPlace(card.id, column && { columnId: column.id, rank: between() });
      try {
        await ask(boardContract.change, {
          params: { key: view.project.key },
          body: {
            kind: "place",
            boardId: view.board.id,
            itemId: card.id,
            columnId: column?.id ?? null,
            below: below?.id ?? null,
          },
        });
      } catch (error) {
        setPlace(card.id, before);
        tellProblem(error);
      }
    },
    [view, setPlace],
  );
}
