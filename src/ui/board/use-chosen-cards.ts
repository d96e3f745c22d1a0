"use client";
import { useCallback, useMemo, useState } from "react";
import type { Card } from "@/core/board/card";
import { inCell } from "@/core/board/cells";
import { NONE_CHOSEN, withRun, withWhole, withTurned } from "@/core/board/choose";
import type { BoardParts } from "./use-board-parts";

/** The cards that somebody has chosen, of those that are shown. */
export function useChosenCards(parts: BoardParts) {
  const [chosen, setChosen] = useState(NONE_CHOSEN);
  const { laneList, cells, columns } = parts;
  // From the top of a column to its foot, lane after lane.
  const inColumns = useMemo(
    () =>
      columns.map((column) =>
        laneList.flatMap((lane) => inCell(cells, lane, column).map((card) => card.id)),
      ),
    [laneList, cells, columns],
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
    runTo: (card: Card) => setChosen(withRun(chosen, card.id, inColumns)),
    column: () => setChosen(withWhole(chosen, inColumns)),
    lane: () =>
      setChosen(
        withWhole(
          chosen,
          laneList.map(({ items }) => items.map(({ id }) => id)),
        ),
      ),
    /** Whether there are several lanes to choose one of. */
    lanes: laneList.length > 1,
    all: () => setChosen({ ids: new Set(parts.shown.map((card) => card.id)), last: null }),
    drop: () => setChosen(NONE_CHOSEN),
  };
}

export type ChosenCards = ReturnType<typeof useChosenCards>;
