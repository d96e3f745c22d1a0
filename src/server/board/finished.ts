import type { Card } from "@/core/board/card";
import { readAcrossKey } from "@/core/across/place";
import { enterAcrossBoard } from "../across/board";
import { withVisibleOthers } from "../item/visible-others";
import type { Viewer } from "../people/viewer";
import { finishedCards } from "./cards";
import { enterBoard } from "./enter";

/** The cards of everything finished that stands on a board; of a board by other things, none. */
export async function readFinished(
  viewer: Viewer,
  key: string,
  boardId: string,
  now = Date.now(),
): Promise<{ cards: Card[] }> {
  const entered =
    readAcrossKey(key) === null
      ? await enterBoard(key, { viewer, boardId, now })
      : await enterAcrossBoard(viewer, key, boardId);
  if (entered.board.columnsBy !== "state") return { cards: [] };
  const cards = await finishedCards({ ...entered, now });
  return { cards: await withVisibleOthers(entered.reader, viewer, cards) };
}
