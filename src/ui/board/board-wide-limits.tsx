"use client";
import type { BoardView } from "@/core/board/board-view";
import { heldWords, limitsOfBoard, limitTitle, type CountedLimit } from "@/core/board/board-limits";
import { countsIn } from "@/core/board/limited";
import { usePanel } from "@/ui/kit/panel-context";
import { limitTone } from "./limit-tone";
import type { BoardParts } from "./use-board-parts";

/** The limits over all that the board has in progress; each opens what counts against it. */
export function BoardWideLimits({
  view,
  parts: { limits, onBoard, counting },
}: {
  view: BoardView;
  parts: BoardParts;
}) {
  const { openBehind } = usePanel();
  const over = limitsOfBoard(limits);
  const openCounted = (limit: CountedLimit) =>
    openBehind({
      title: limit.name,
      ids: onBoard.filter((card) => countsIn(limit, card, counting)).map(({ id }) => id),
      // Of what is added up by size it is not known how many.
      unseen:
        limit.unit === "items" ? view.limits.find(({ id }) => id === limit.id)?.count : undefined,
    });
  if (over.length === 0) return null;
  return (
    <p className="flex flex-wrap gap-x-5 px-2 pb-1.5 text-[12.5px] text-ink-soft">
      {over.map((limit) => {
        const { state, words } = heldWords(limit);
        return (
          <button
            key={limit.id}
            type="button"
            className="hover:underline"
            title={limitTitle(limit, view.defaultSize)}
            onClick={() => openCounted(limit)}
          >
            {limit.name} <b className={limitTone(state)}>{words}</b>
          </button>
        );
      })}
    </p>
  );
}
