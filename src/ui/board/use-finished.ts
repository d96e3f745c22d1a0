"use client";
import { useEffect } from "react";
import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import { columnWords, type Column } from "@/core/board/column";
import { countRest } from "@/core/board/finished";
import type { Lane } from "@/core/board/lane";
import { tellProblem } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import { unseenIn, type BoardParts, type Shown, type Stands } from "./use-board-parts";

const LATELY = "Finished in the last 14 days";
const idsOf = (cards: readonly Card[]) => cards.map((c) => c.id);

/**
 * Of what has finished a board has a number and the latest cards. All of them are brought when
 * somebody filters it, cuts it into lanes, or wants to see the items behind a number.
 */
export function useFinished(
  { view, bringFinished }: { view: BoardView; bringFinished: () => Promise<BoardView> },
  parts: BoardParts,
  { matching, lanes }: Shown,
  stands: Stands,
) {
  const { openBehind } = usePanel();
  const rest = view.finishedRest;
  const needed = rest.length > 0 && (matching !== null || lanes !== "none");
  useEffect(() => {
    if (needed) bringFinished().catch(tellProblem);
  }, [needed, bringFinished]);

  const openWhere = async (title: string, where: (card: Card) => boolean, unseen = 0) => {
    try {
      const { cards } = await bringFinished();
      openBehind({ title, ids: idsOf(cards.filter(where)), unseen });
    } catch (error) {
      tellProblem(error);
    }
  };
  return {
    unsent: (lane: Lane<Card>, column: Column) => countRest(rest, column.stateIds, lane.expedite),
    openAll: () =>
      openWhere(
        LATELY,
        (c) => c.finishedAt !== null && parts.columns.some((column) => stands(c, column)),
      ),
    openCell: (lane: Lane<Card>, column: Column) => {
      if (rest.length === 0)
        return openBehind({
          title: LATELY,
          ids: idsOf(lane.items.filter((c) => stands(c, column))),
        });
      // Without all cards there are but two lanes: expedite, and everything else.
      const inLane = (c: Card) => (c.classOfService === "expedite") === lane.expedite;
      void openWhere(LATELY, (c) => inLane(c) && stands(c, column));
    },
    openColumn: (column: Column) => {
      const behind = { title: columnWords(column), unseen: unseenIn(view, column) };
      if (countRest(rest, column.stateIds) > 0)
        return void openWhere(behind.title, (c) => stands(c, column), behind.unseen);
      openBehind({ ...behind, ids: idsOf(parts.onBoard.filter((c) => stands(c, column))) });
    },
  };
}
