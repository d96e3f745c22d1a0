import { Plus } from "lucide-react";
import { heldWords, limitTitle, type CountedLimit } from "@/core/board/board-limits";
import type { Card } from "@/core/board/card";
import type { Lane } from "@/core/board/lane";
import type { Tally } from "@/core/board/tally";
import type { AmountWords } from "@/ui/view/amount-words";
import { limitTone } from "./limit-tone";
import type { BoardAdding } from "./use-board-adding";

/** What a lane is called, how many items it holds, and what they add up to. */
export function LaneHead({
  lane,
  tally,
  words,
  limits,
  defaultSize,
  adding,
}: {
  lane: Lane<Card>;
  tally: Tally | undefined;
  words: AmountWords;
  /** Over the lane, or the person that it is of. */
  limits: readonly CountedLimit[];
  defaultSize: number;
  adding: BoardAdding;
}) {
  return (
    <>
      <h3
        className="flex items-baseline gap-2 border-t border-line px-2 py-0.5 font-display text-[12.5px]"
        style={lane.expedite ? { borderTop: "none" } : undefined}
      >
        {lane.name}{" "}
        <span className="font-sans text-[12.5px] font-normal text-ink-soft">
          {words.lane(tally)}
        </span>
        {limits.map((limit) => (
          <LaneLimit key={limit.id} limit={limit} defaultSize={defaultSize} />
        ))}
        {adding.may && (
          <button
            type="button"
            className="add-here !w-6 self-center"
            aria-label={`Add at the head of ${lane.name}`}
            onClick={() => adding.open(lane, null, "head")}
          >
            <Plus size={13} aria-hidden="true" />
          </button>
        )}
      </h3>
      <div className="max-w-[360px] px-2">{adding.line(lane, null, "head")}</div>
    </>
  );
}

function LaneLimit({ limit, defaultSize }: { limit: CountedLimit; defaultSize: number }) {
  const { state, words } = heldWords(limit);
  const what = limit.ownerKind === "person" ? "in hand" : "in progress";
  return (
    <span
      className={`font-sans text-[12.5px] ${limitTone(state)}`}
      title={limitTitle(limit, defaultSize)}
    >
      {what} {words}
    </span>
  );
}
