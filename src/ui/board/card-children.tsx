"use client";
import type { SyntheticEvent } from "react";
import { ChildList } from "@/ui/item/child-list";
import { useItem } from "@/ui/item/use-item";
import { problemOf } from "@/ui/kit/request";

/** What is done in the list is not done to the card. */
const stay = (event: SyntheticEvent) => event.stopPropagation();

/** What stands under an item, opened on its card to be ticked. */
export function CardChildren({ itemKey }: { itemKey: string }) {
  const { handle, error } = useItem(itemKey);
  return (
    <div
      className="mt-1 cursor-default border-t border-line pt-1"
      onClick={stay}
      onPointerDown={stay}
      onKeyDown={(event) => event.key !== "Escape" && stay(event)}
    >
      {handle ? (
        <ChildList handle={handle} small />
      ) : (
        <p className="text-[12px] text-ink-soft">
          {error ? problemOf(error).sentence : "One moment…"}
        </p>
      )}
    </div>
  );
}
