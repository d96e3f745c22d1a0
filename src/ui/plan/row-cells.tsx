"use client";
import { readSize, sizeWords, stepsAsText } from "@/core/plan/size-scale";
import { useSizes } from "@/ui/kit/sizes";
import { useState } from "react";
import type { Card } from "@/core/board/card";
import { PRIORITIES } from "@/core/item/fields";
import { TextInput } from "@/ui/kit/field";
import { Menu, MenuItem } from "@/ui/kit/menu";
import { tellProblem } from "@/ui/kit/notice";
import type { BacklogOrder } from "./use-backlog-order";

interface Cell {
  card: Card;
  order: BacklogOrder;
  mayEdit: boolean;
}

/** Its priority, chosen where it stands. */
export function PriorityCell({ card: { key, priority }, card, order, mayEdit }: Cell) {
  if (!mayEdit) return <>{priority}</>;
  return (
    <Menu
      trigger={
        <button
          type="button"
          className="hover:underline"
          aria-label={`Priority of ${key}: ${priority}`}
        >
          {priority}
        </button>
      }
    >
      {PRIORITIES.filter((one) => one !== priority).map((one) => (
        <MenuItem
          key={one}
          onSelect={() => void order.change(card, { priority: one }, `${key} is ${one} now.`)}
        >
          {one}
        </MenuItem>
      ))}
    </Menu>
  );
}

/** Its size in points, typed where it stands; Enter or leaving it stores it, Escape leaves it as it was. */
export function SizeCell({ card: { key, estimate }, card, order, mayEdit }: Cell) {
  const [typed, setTyped] = useState<string | null>(null);
  const scale = useSizes();
  const wordsOf = (size: number | null) => (size === null ? "" : sizeWords(size, scale));
  const shown = wordsOf(estimate) || "–";
  /** As it is typed. */
  const sizeName = (size: number) => wordsOf(size).replace(" h", "");
  if (!mayEdit) return <>{shown}</>;
  if (typed === null)
    return (
      <button
        type="button"
        className="min-h-6 w-full text-right hover:underline"
        aria-label={`Size of ${key}: ${wordsOf(estimate) || "none"}`}
        onClick={() => setTyped(estimate === null ? "" : sizeName(estimate))}
      >
        {shown}
      </button>
    );
  const store = () => {
    setTyped(null);
    const empty = typed.trim() === "";
    const wanted = empty ? null : readSize(typed, scale);
    if (wanted === estimate) return;
    if (wanted === null && !empty)
      return tellProblem(new Error(`“${typed}” is no size: ${stepsAsText(scale)}, or a number.`));
    const done =
      wanted === null ? `${key} has no size.` : `${key} has the size ${wordsOf(wanted)}.`;
    void order.change(card, { estimate: wanted }, done);
  };
  return (
    <TextInput
      autoFocus
      inputMode="decimal"
      className="!min-h-6 !px-1 text-right"
      aria-label={`Size of ${key}`}
      value={typed}
      onFocus={(event) => event.target.select()}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={store}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Enter") store();
        if (event.key === "Escape") setTyped(null);
      }}
    />
  );
}
