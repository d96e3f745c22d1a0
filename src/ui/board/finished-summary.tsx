import { counted } from "@/core/formats/counted";
import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import { deliveredInDays } from "@/core/board/finished";
import { expectationKept, type Expectation } from "@/core/flow/expectation";

/** Above what is finished: how many items, and how many of them kept to the expectation. */
export function FinishedSummary({
  view,
  onBoard,
  expectation,
  now,
  onOpen,
}: {
  view: BoardView;
  onBoard: readonly Card[];
  expectation: Expectation;
  now: number;
  onOpen: () => void;
}) {
  const finished = onBoard.filter((c) => c.finishedAt !== null);
  const restDays = view.finishedRest.flatMap((rest) => rest.tookDays);
  const days = [...deliveredInDays(finished, view.project.zone, now), ...restDays];
  const kept = expectationKept(days, expectation);
  const rest = view.finishedRest.reduce((sum, r) => sum + r.finished, 0);
  return (
    <button
      type="button"
      className="mb-1.5 block px-1 text-left leading-tight hover:underline"
      onClick={onOpen}
    >
      <b className="font-display text-[22px] text-done">{finished.length + rest}</b>{" "}
      <span className="font-semibold text-done">finished</span>
      <span className="block text-[12px] text-ink-soft">
        {kept.within} within {counted(expectation.days, "day")}
      </span>
    </button>
  );
}
