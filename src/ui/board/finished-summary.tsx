import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import { deliveredInDays, type FinishedGroup } from "@/core/board/finished";
import { counted } from "@/core/formats/counted";
import { expectationKept, type Expectation } from "@/core/flow/expectation";

/** How many have finished, and in how many days those were delivered that were. */
interface Finished {
  items: number;
  days: number[];
}

/** Of what has finished, from groups of it, or from cards where all of them are here. */
export function finishedOf(
  groups: readonly FinishedGroup[] | null,
  cards: readonly Card[],
  { zone }: BoardView["project"],
  now: number,
): Finished {
  const ended = cards.filter((card) => card.finishedAt !== null);
  if (groups === null) return { items: ended.length, days: deliveredInDays(ended, zone, now) };
  return {
    items: groups.reduce((sum, group) => sum + group.finished, 0),
    days: groups.flatMap((group) => group.tookDays),
  };
}

/** Above what is finished: how many items, and how many of them kept to the expectation. */
export function FinishedSummary({
  finished: { items, days },
  expectation,
  onOpen,
}: {
  finished: Finished;
  /** Null where several are expected. */
  expectation: Expectation | null;
  onOpen: () => void;
}) {
  const within = expectation && expectationKept(days, expectation).within;
  return (
    <button
      type="button"
      className="mb-1.5 block px-1 text-left leading-tight hover:underline"
      onClick={onOpen}
    >
      <b className="font-display text-[22px] text-done">{items}</b>{" "}
      <span className="font-semibold text-done">finished</span>
      {expectation && (
        <span className="block text-[12px] text-ink-soft">
          {within} within {counted(expectation.days, "day")}
        </span>
      )}
    </button>
  );
}
