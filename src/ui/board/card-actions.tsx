"use client";
import { Button } from "@/ui/kit/button";
import { Popover } from "@/ui/kit/popover";
import { useRef, type ReactNode } from "react";
import type { Card } from "@/core/board/card";
import { mayBeReady } from "@/core/item/ready";
import { stateOf, transitionsFrom, type Workflow } from "@/core/workflow/workflow";
import { AskForm, withMore, type Answers } from "@/ui/item/ask-form";
import { columnWords } from "@/core/board/column";
import type { Choosing } from "./use-columns";
import type { Stopped } from "./use-moves";

/** A box beside a card; Radix places it where there is room. */
function Beside({
  cardId,
  label,
  onClose,
  children,
}: {
  cardId: string;
  label: string;
  onClose: () => void;
  children: ReactNode;
}) {
  const virtual = {
    current: {
      getBoundingClientRect: () =>
        (
          document.querySelector(`[data-card="${cardId}"]`) ?? document.body
        ).getBoundingClientRect(),
    },
  };
  return (
    <Popover
      open
      onOpenChange={(open) => !open && onClose()}
      anchor={virtual}
      label={label}
      side="right"
      className="w-[300px]"
      onReturnFocus={(event) => {
        event.preventDefault();
        document.querySelector<HTMLElement>(`[data-card="${cardId}"]`)?.focus();
      }}
    >
      {children}
    </Popover>
  );
}

/** Why a move was not made, beside the card, with a form for what is still missing. */
export function StoppedMove({
  stopped,
  names,
  onAnswer,
  onClose,
}: {
  stopped: Stopped;
  names: Parameters<typeof AskForm>[0]["names"];
  onAnswer: (answers: Answers) => void;
  onClose: () => void;
}) {
  const { problem, given, verb } = stopped;
  return (
    <Beside cardId={stopped.cardId} label={problem.sentence} onClose={onClose}>
      <div
        role="alert"
        className={`border-l-[3px] pl-3 ${problem.asks.length > 0 ? "border-accent" : "border-alarm"}`}
      >
        <p className="font-semibold">{problem.sentence}</p>
        <p className="mb-2 text-[13px] text-ink-soft">{problem.help}</p>
      </div>
      {problem.asks.length > 0 && (
        <AskForm
          key={problem.sentence}
          asks={problem.asks}
          names={names}
          verb={verb}
          onCancel={onClose}
          onAnswer={(more) => onAnswer(withMore(given, more))}
        />
      )}
    </Beside>
  );
}

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
      cardId={choosing.cardId}
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

/** The moves that exist from where a card is, by their verbs. */
export function CardActions({
  card,
  workflow,
  onMove,
  onReady,
  onOpen,
  onClose,
}: {
  card: Card;
  workflow: Workflow;
  onMove: (to: string, verb: string) => void;
  onReady: (on: boolean) => void;
  onOpen: () => void;
  onClose: () => void;
}) {
  const list = useRef<HTMLUListElement>(null);
  const step = (by: number) => {
    const buttons = [...(list.current?.querySelectorAll("button") ?? [])];
    const at = buttons.indexOf(document.activeElement as HTMLButtonElement);
    buttons[(at + by + buttons.length) % buttons.length]?.focus();
  };
  return (
    <Beside cardId={card.id} label={`Actions for ${card.key}`} onClose={onClose}>
      <p className="key mb-1 px-2">{card.key}</p>
      <ul
        ref={list}
        onKeyDown={(e) => {
          if (e.key === "ArrowDown" || e.key === "ArrowUp") {
            e.preventDefault();
            step(e.key === "ArrowDown" ? 1 : -1);
          }
        }}
      >
        {transitionsFrom(workflow, card.stateId).map((t) => (
          <li key={t.id}>
            <button
              type="button"
              className="menu-item w-full hover:bg-accent-soft focus:bg-accent-soft"
              onClick={() => onMove(t.to, t.verb)}
            >
              <span className="flex-1 text-left">{t.verb}</span>
              <span className="text-[12.5px] text-ink-soft">to {stateOf(workflow, t.to).name}</span>
            </button>
          </li>
        ))}
        {mayBeReady(card) && (
          <li>
            <button
              type="button"
              className="menu-item w-full hover:bg-accent-soft focus:bg-accent-soft"
              onClick={() => onReady(card.readySince === null)}
            >
              <span className="flex-1 text-left">
                {card.readySince === null ? "Ready for its next step" : "Not ready any more"}
              </span>
              <kbd>r</kbd>
            </button>
          </li>
        )}
        <li>
          <button
            type="button"
            className="menu-item w-full hover:bg-accent-soft focus:bg-accent-soft"
            onClick={onOpen}
          >
            Open the item
          </button>
        </li>
      </ul>
    </Beside>
  );
}
