import type { Card } from "@/core/board/card";
import type { Lane } from "@/core/board/lane";
import type { Tally } from "@/core/board/tally";
import type { AmountWords } from "./amount-words";

/** What a lane is called, how many items it holds, and what they add up to. */
export function LaneHead({
  lane,
  tally,
  words,
}: {
  lane: Lane<Card>;
  tally: Tally | undefined;
  words: AmountWords;
}) {
  return (
    <h3
      className="flex items-baseline gap-2 border-t border-line px-2 py-0.5 font-display text-[12.5px]"
      style={lane.expedite ? { borderTop: "none" } : undefined}
    >
      {lane.name}{" "}
      <span className="font-sans text-[12.5px] font-normal text-ink-soft">{words.lane(tally)}</span>
    </h3>
  );
}
