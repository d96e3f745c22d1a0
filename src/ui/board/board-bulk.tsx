"use client";
import { BulkBar } from "@/ui/bulk/bulk-bar";
import { Button } from "@/ui/kit/button";
import type { LookHandle } from "@/ui/view/use-look";
import type { ChosenCards } from "./use-chosen-cards";

/** What is done to the chosen cards of a board, at its foot. */
export function BoardBulk({
  handle,
  chosen: { cards, column, all, drop },
}: {
  handle: LookHandle;
  chosen: ChosenCards;
}) {
  const estimates = cards.flatMap((card) => card.estimate ?? []);
  const sum = estimates.reduce((total, each) => total + each, 0);
  return (
    <BulkBar
      handle={handle}
      count={cards.length}
      sum={estimates.length > 0 ? `estimate ${sum}` : null}
      items={{ ids: cards.map((card) => card.id) }}
      onDrop={drop}
    >
      <Button small look="quiet" onClick={column}>
        Whole column
      </Button>
      <Button small look="quiet" onClick={all}>
        All shown
      </Button>
    </BulkBar>
  );
}
