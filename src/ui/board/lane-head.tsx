import { ChevronDown, ChevronRight, Plus } from "lucide-react";
import { heldWords, limitTitle, type CountedLimit } from "@/core/board/board-limits";
import type { Card } from "@/core/board/card";
import type { Lane } from "@/core/board/lane";
import type { Tally } from "@/core/board/tally";
import type { AmountWords } from "@/ui/view/amount-words";
import { TextButton } from "@/ui/kit/button";
import type { FoldsHandle } from "./use-folds";
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
  folds,
  closed,
  others,
}: {
  lane: Lane<Card>;
  tally: Tally | undefined;
  words: AmountWords;
  /** Over the lane, or the person that it is of. */
  limits: readonly CountedLimit[];
  defaultSize: number;
  adding: BoardAdding;
  folds: FoldsHandle;
  /** Why it does not take the card that is in hand. */
  closed: string | undefined;
  /** All other lanes, where this is one's own; else null. */
  others: readonly Lane<Card>[] | null;
}) {
  const folded = folds.folds.lanes.includes(lane.id);
  const Sign = folded ? ChevronRight : ChevronDown;
  return (
    <>
      <h3
        className="flex items-baseline gap-2 border-t border-line px-2 py-0.5 font-display text-[12.5px]"
        style={lane.expedite ? { borderTop: "none" } : undefined}
      >
        <button
          type="button"
          className="flex items-center gap-1 self-center"
          aria-expanded={!folded}
          aria-label={`${lane.name}, ${folded ? "unfold" : "fold"}`}
          onClick={() => folds.turnLane(lane.id)}
        >
          <Sign size={13} aria-hidden="true" />
          {lane.name}
        </button>
        <span className="font-sans text-[12.5px] font-normal text-ink-soft">
          {words.lane(tally)}
        </span>
        {limits.map((limit) => (
          <LaneLimit key={limit.id} limit={limit} defaultSize={defaultSize} />
        ))}
        {others && <FoldOthers others={others} folds={folds} />}
        {closed && <span className="font-sans text-[12.5px] text-alarm">{closed}</span>}
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

/** Folds all lanes but one's own, or opens them all. */
function FoldOthers({
  others,
  folds: { folds, foldLanes },
}: {
  others: readonly Lane<Card>[];
  folds: FoldsHandle;
}) {
  const ids = others.map(({ id }) => id);
  const all = ids.every((id) => folds.lanes.includes(id));
  return (
    <TextButton className="font-sans text-[12.5px]" onClick={() => foldLanes(all ? [] : ids)}>
      {all ? "open all" : "fold all but mine"}
    </TextButton>
  );
}
