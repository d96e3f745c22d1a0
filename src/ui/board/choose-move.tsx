"use client";
import { columnWords } from "@/core/board/column";
import { Button } from "@/ui/kit/button";
import { Beside } from "@/ui/kit/beside";
import { cardAt } from "./at-card";
import type { Choosing } from "./use-columns";

/** Several moves lead into the column: which one is meant is asked at the card. */
export function ChooseMove({
  choosing,
  onChoose,
  onClose,
}: {
  choosing: Choosing;
  onChoose: (option: Choosing["options"][number]) => void;
  onClose: () => void;
}) {
  return (
    <Beside
      at={cardAt(choosing.cardId)}
      label={`Into ${columnWords(choosing.column)}: which?`}
      onClose={onClose}
    >
      <p className="mb-1 font-semibold">Into {columnWords(choosing.column)}: which?</p>
      <ul>
        {choosing.options.map((option, i) => (
          <li key={option.to}>
            <button
              type="button"
              autoFocus={i === 0}
              className="menu-item w-full text-left"
              onClick={() => onChoose(option)}
            >
              <b>{option.verb}</b> <span className="text-ink-soft">to {option.stateName}</span>
            </button>
          </li>
        ))}
      </ul>
      <Button look="quiet" small className="mt-1" onClick={onClose}>
        Leave it where it is
      </Button>
    </Beside>
  );
}
