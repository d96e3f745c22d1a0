"use client";
import { useCallback, useState } from "react";
import type { Card } from "@/core/board/card";
import { NONE_CHOSEN, withColumn, withRun, withTurned } from "@/core/board/choose";
import type { BoardParts, Stands } from "./use-board-parts";

/** The cards that somebody has chosen, of those that are shown. */
export function useChosenCards(parts: BoardParts, stands: Stands) {
  const [chosen, setChosen] = useState(NONE_CHOSEN);
  // From the top of a column to its foot, lane after lane.
  const inOrder = parts.laneList.flatMap((lane) => lane.items);
  const columns = parts.columns.map((column) =>
    inOrder.filter((card) => stands(card, column)).map((card) => card.id),
  );
  const shown = [...parts.shown, ...parts.backlogShown];
  const turn = useCallback(
    (card: Card) => setChosen((before) => withTurned(before, card.id)),
    [setChosen],
  );
  return {
    has: (card: Card) => chosen.ids.has(card.id),
    /** What is hidden meanwhile is not changed unseen. */
    cards: shown.filter((card) => chosen.ids.has(card.id)),
    turn,
    runTo: (card: Card) => setChosen(withRun(chosen, card.id, columns)),
    column: () => setChosen(withColumn(chosen, columns)),
    all: () => setChosen({ ids: new Set(parts.shown.map((card) => card.id)), last: null }),
    drop: () => setChosen(NONE_CHOSEN),
  };
}

export type ChosenCards = ReturnType<typeof useChosenCards>;
