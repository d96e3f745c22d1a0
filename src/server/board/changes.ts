import type { BoardChanges } from "@/core/board/board-view";
import type { ChangesAsked } from "@/core/board/request";
import { aroundItems } from "../item/list/around";
import { loadOwnFields } from "../item/own-fields";
import { withVisibleOthers } from "../item/visible-others";
import type { Viewer } from "../people/viewer";
import { openCards, processCardsOf, readFinishedGroups } from "./cards";
import { readBesideBoard } from "./board-limits";
import { enterBoard } from "./enter";

/**
 * What became of some items on a board: the cards of those that stand on it, as far as a person may
 * see them, and the counts that may have changed with them. Those without a card stand there no
 * more.
 */
export async function readBoardChanges(
  viewer: Viewer,
  projectKey: string,
  { board: boardId, ids, finished, sum }: ChangesAsked,
  now = Date.now(),
): Promise<BoardChanges> {
  const entered = await enterBoard(projectKey, { viewer, boardId, now });
  const { reader, project, board, scope } = entered;
  const byProcess = board.columnsBy === "state";
  const [found, around, beside, ownFields] = await Promise.all([
    byProcess ? processCardsOf({ ...entered, now }, ids) : openCards(reader, project, scope, ids),
    aroundItems(reader, viewer, project, ids),
    readBesideBoard({ ...entered, viewer, now }),
    finished && byProcess ? loadOwnFields(reader, project.id) : [],
  ]);
  return {
    cards: await withVisibleOthers(reader, viewer, found),
    around,
    ...beside,
    finished:
      finished && byProcess ? await readFinishedGroups({ ...entered, now, sum, ownFields }) : null,
  };
}
