"use client";
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

/** Larger than this no size is. */
const LARGEST = 1_000;

/** Its size in points, typed where it stands; Enter or leaving it stores it, Escape leaves it as it was. */
export function SizeCell({ card: { key, estimate }, card, order, mayEdit }: Cell) {
  const [typed, setTyped] = useState<string | null>(null);
  const shown = estimate === null ? "–" : String(estimate);
  if (!mayEdit) return <>{shown}</>;
  if (typed === null)
    return (
      <button
        type="button"
        className="min-h-6 w-full text-right hover:underline"
        aria-label={`Size of ${key}: ${estimate ?? "none"}`}
        onClick={() => setTyped(estimate === null ? "" : String(estimate))}
      >
        {shown}
      </button>
    );
  const store = () => {
    setTyped(null);
    const wanted = typed.trim() === "" ? null : Number(typed.replace(",", "."));
    if (wanted === estimate) return;
    if (wanted !== null && !(wanted >= 0 && wanted <= LARGEST))
      return tellProblem(new Error(`“${typed}” is no size: a number from 0 to ${LARGEST} is.`));
    const done = wanted === null ? `${key} has no size.` : `${key} has the size ${wanted}.`;
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
