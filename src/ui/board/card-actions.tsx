"use client";
import { useRef, type KeyboardEvent } from "react";
import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import { mayBeReady } from "@/core/item/ready";
import { stateOf, transitionsFrom, type Workflow } from "@/core/workflow/workflow";
import { usePins } from "@/ui/item/use-pins";
import { Beside } from "@/ui/kit/beside";
import { BRANCH_KEY, copyBranchName } from "@/ui/ship/copy-branch-name";
import { cardAt } from "./at-card";
import { CardFields, type InPlace } from "./card-fields";
import type { SendCard } from "./use-card-command";

/** One thing to do with a card. */
interface Act {
  id: string;
  words: string;
  more?: string;
  key?: string;
  act: () => void;
}

/**
 * Everything that is done to an item at its card: the moves from where it is, by their verbs, and its
 * fields. Where a field was pressed the fields come first, and it has the focus.
 */
export function CardActions({
  view,
  card,
  workflow,
  field,
  send,
  onMove,
  onReady,
  onAdd,
  onOpen,
  onClose,
}: {
  view: BoardView;
  card: Card;
  workflow: Workflow;
  /** The field that was pressed; null: none. */
  field: InPlace | null;
  send: SendCard;
  onMove: (to: string, verb: string) => void;
  onReady: (on: boolean) => void;
  /** Null where nothing can be added to it. */
  onAdd: (() => void) | null;
  onOpen: () => void;
  onClose: () => void;
}) {
  const { isPinned, turn } = usePins();
  const { move, edit } = view.rights;
  const moves = (move ? transitionsFrom(workflow, card.stateId) : []).map(
    ({ id, to, verb }): Act => ({
      id,
      words: verb,
      more: `to ${stateOf(workflow, to).name}`,
      act: () => onMove(to, verb),
    }),
  );
  const ready: Act = {
    id: "ready",
    words: card.readySince === null ? "Ready for its next step" : "Not ready any more",
    key: "r",
    act: () => onReady(card.readySince === null),
  };
  const others: Act[] = [
    ...(onAdd ? [{ id: "add", words: "Add to it", key: "u", act: onAdd }] : []),
    {
      id: "pin",
      words: isPinned(card.id) ? "Not among my pins any more" : "Among my pins",
      key: "p",
      act: () => {
        onClose();
        turn(card);
      },
    },
    {
      id: "branch",
      words: "Copy its branch name",
      key: BRANCH_KEY,
      act: () => {
        onClose();
        void copyBranchName(card.key);
      },
    },
    { id: "open", words: "Open the item", key: "Enter", act: onOpen },
  ];
  const fields = edit && <CardFields view={view} card={card} send={send} />;
  return (
    <Beside
      at={cardAt(card.id)}
      label={`Actions for ${card.key}`}
      onTakeFocus={(event) => field && takeFocus(event, field)}
      onClose={onClose}
    >
      <p className="key mb-1 px-2">{card.key}</p>
      {field && fields && <div className="mb-1 border-b border-line pb-1.5">{fields}</div>}
      <Acts acts={[...moves, ...(move && mayBeReady(card) ? [ready] : [])]} />
      {!field && fields && <div className="mt-1 border-t border-line pt-1.5">{fields}</div>}
      <div className="mt-1 border-t border-line pt-1">
        <Acts acts={others} />
      </div>
    </Beside>
  );
}

/** The field that was pressed is the one to be changed. */
function takeFocus(event: Event, field: InPlace): void {
  const place = document.querySelector(`.popover [data-in-place="${field}"]`);
  const editor = place?.querySelector<HTMLElement>("input, button");
  if (!editor) return;
  event.preventDefault();
  editor.focus();
  if (editor instanceof HTMLInputElement) editor.select();
}

function Acts({ acts }: { acts: readonly Act[] }) {
  const list = useRef<HTMLUListElement>(null);
  const step = (event: KeyboardEvent) => {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (!by) return;
    event.preventDefault();
    const buttons = [
      ...(list.current?.closest(".popover")?.querySelectorAll<HTMLElement>("[data-act]") ?? []),
    ];
    const at = buttons.indexOf(document.activeElement as HTMLElement);
    buttons[(at + by + buttons.length) % buttons.length]?.focus();
  };
  return (
    <ul ref={list} onKeyDown={step}>
      {acts.map(({ id, words, more, key, act }) => (
        <li key={id}>
          <button
            type="button"
            data-act={id}
            className="menu-item w-full hover:bg-accent-soft focus:bg-accent-soft"
            onClick={act}
          >
            <span className="flex-1 text-left">{words}</span>
            {more && <span className="text-[12.5px] text-ink-soft">{more}</span>}
            {key && <kbd>{key}</kbd>}
          </button>
        </li>
      ))}
    </ul>
  );
}
