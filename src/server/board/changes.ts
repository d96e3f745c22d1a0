import type { BoardChanges } from "@/core/board/board-view";
import type { ChangesAsked } from "@/core/board/request";
import { readAcrossKey } from "@/core/across/place";
import { enterAcrossBoard } from "../across/board";
import { aroundItems } from "../item/list/around";
import { loadOwnFields } from "../item/own-fields";
import { withVisibleOthers } from "../item/visible-others";
import type { Viewer } from "../people/viewer";
import { openCards, processCardsOf, finishedOf } from "./cards";
import { NOTHING_BESIDE, readBesideBoard } from "./board-limits";
import { enterBoard } from "./enter";

/**
 * What became of some items on a board: the cards of those that stand on it, as far as a person may
 * see them, and the counts that may have changed with them. Those without a card stand there no
 * more.
 */
export async function readBoardChanges(
  viewer: Viewer,
  key: string,
  { board: boardId, ids, finished, sum }: ChangesAsked,
  now = Date.now(),
): Promise<BoardChanges> {
  const above = readAcrossKey(key) !== null;
  const entered = above
    ? { ...(await enterAcrossBoard(viewer, key, boardId)), project: null }
    : await enterBoard(key, { viewer, boardId, now });
  const { reader, ground, board } = entered;
  const byProcess = board.columnsBy === "state";
  const [found, around, beside, ownFields] = await Promise.all([
    byProcess ? processCardsOf({ ...entered, now }, ids) : openCards(entered, ids),
    aroundItems(reader, viewer, ground, ids),
    entered.project === null ? NOTHING_BESIDE : readBesideBoard({ ...entered, viewer, now }),
    finished && byProcess && entered.project ? loadOwnFields(reader, entered.project.id) : [],
  ]);
  return {
    cards: await withVisibleOthers(reader, viewer, found),
    around,
    ...beside,
    finished: finished && byProcess ? await finishedOf({ ...entered, now, sum, ownFields }) : null,
  };
}
