"use client";
import { useEffect } from "react";
import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import { inCell } from "@/core/board/cells";
import { columnWords, type Column } from "@/core/board/column";
import { countFinished } from "@/core/board/finished";
import { groupsSay, laneIdOf, type Lane } from "@/core/board/lane";
import { tellProblem } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import { unseenIn } from "./use-board-limits";
import type { BoardParts, Shown, Stands } from "./use-board-parts";

const LATELY = "Finished in the last 14 days";
const idsOf = (cards: readonly Card[]) => cards.map((c) => c.id);

/**
 * Of what has finished a board has a number and the latest cards. All of them are brought when
 * somebody filters it, or wants to see the items behind a number.
 */
export function useFinished(
  { view, bringFinished }: { view: BoardView; bringFinished: () => Promise<BoardView> },
  parts: BoardParts,
  { matching, cut }: Shown,
  stands: Stands,
) {
  const { openBehind } = usePanel();
  const needed = !view.finishedWhole && (matching !== null || !groupsSay(cut.lanes));
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
  const laneId = laneIdOf(cut);
  const shows = (card: Card) => matching === null || matching.has(card.id);
  const inLane = (lane: Lane<Card>) => (card: Card) => laneId(card) === lane.id && shows(card);
  const onBoard = (card: Card) => parts.columns.some((column) => stands(card, column));
  return {
    /** How many finished items of a lane are in a column beside its cards. */
    unsent: (lane: Lane<Card>, column: Column): number => {
      const groups = parts.finishedIn(lane);
      if (groups === null || column.part !== "finished") return 0;
      const here = inCell(parts.cells, lane, column).length;
      return Math.max(0, countFinished(groups, column.stateIds) - here);
    },
    openLane: (lane: Lane<Card>) =>
      void openWhere(LATELY, (c) => c.finishedAt !== null && inLane(lane)(c) && onBoard(c)),
    openCell: (lane: Lane<Card>, column: Column) =>
      void openWhere(LATELY, (c) => inLane(lane)(c) && stands(c, column)),
    openReady: (column: Column) =>
      openBehind({
        title: `${columnWords(column)}: ready for the next step`,
        ids: idsOf(parts.onBoard.filter((c) => c.readySince !== null && stands(c, column))),
      }),
    openColumn: (column: Column) => {
      const behind = { title: columnWords(column), unseen: unseenIn(view, column) };
      if (column.part === "finished")
        return void openWhere(behind.title, (c) => stands(c, column), behind.unseen);
      openBehind({ ...behind, ids: idsOf(parts.onBoard.filter((c) => stands(c, column))) });
    },
  };
}
