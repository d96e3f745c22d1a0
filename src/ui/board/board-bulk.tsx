"use client";
import type { BoardView } from "@/core/board/board-view";
import { tallyOf } from "@/core/board/tally";
import { amountOf } from "@/core/item/amount";
import { BulkBar } from "@/ui/bulk/bulk-bar";
import { Button } from "@/ui/kit/button";
import type { LookHandle } from "@/ui/view/use-look";
import type { AmountWords } from "@/ui/view/amount-words";
import type { ChosenCards } from "./use-chosen-cards";

/** What is done to the chosen cards of a board, at its foot. */
export function BoardBulk({
  handle,
  view: { sum, ownFields },
  chosen: { cards, column, lane, lanes, all, drop },
  words,
}: {
  handle: LookHandle;
  view: BoardView;
  chosen: ChosenCards;
  words: AmountWords;
}) {
  const tally = tallyOf(cards, (card) => amountOf(sum, card, ownFields));
  return (
    <BulkBar
      handle={handle}
      count={cards.length}
      sum={words.column(tally, false)}
      items={{ ids: cards.map((card) => card.id) }}
      onDrop={drop}
    >
      <Button small look="quiet" onClick={column}>
        Whole column
      </Button>
      {lanes && (
        <Button small look="quiet" onClick={lane}>
          Whole lane
        </Button>
      )}
      <Button small look="quiet" onClick={all}>
        All shown
      </Button>
    </BulkBar>
  );
}
