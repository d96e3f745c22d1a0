"use client";
import { useDraggable } from "@dnd-kit/core";
import { memo, useMemo, type KeyboardEvent, type PointerEventHandler } from "react";
import type { Card } from "@/core/board/card";
import { CardFace, type Drawn } from "./card-face";
import { cardLabel } from "./card-words";

interface Props extends Drawn {
  /** Whether it stands directly below its parent. */
  under: boolean;
  open: boolean;
  picked: boolean;
  changed: boolean;
  chosen: boolean;
  focusable: boolean;
  draggable: boolean;
  onOpen: (card: Card) => void;
  /** With Shift or Ctrl held a press chooses instead of opening. */
  onChoose: (card: Card) => void;
  onFocus: (card: Card) => void;
  onKey: (event: KeyboardEvent<HTMLElement>, card: Card) => void;
}

/**
 * A card. In waiting parts it is compact; where somebody works on it, it shows more. What is drawn
 * in it is apart from what happens to it: while one card is carried, no other is drawn anew.
 */
export const BoardCard = memo(function BoardCard({
  card,
  compact,
  facts,
  under,
  around,
  told,
  whose,
  childrenToo,
  childrenOpen,
  open,
  picked,
  changed,
  chosen,
  focusable,
  draggable,
  onOpen,
  onChoose,
  onFocus,
  onKey,
}: Props) {
  const { setNodeRef, listeners, isDragging } = useDraggable({ id: card.id, disabled: !draggable });
  return (
    <div
      ref={setNodeRef}
      role="listitem"
      aria-label={useMemo(
        () => cardLabel(card, facts, { around, childrenToo, chosen }),
        [card, facts, around, childrenToo, chosen],
      )}
      tabIndex={focusable ? 0 : -1}
      className="card"
      data-card={card.id}
      data-key={card.key}
      data-item={card.key}
      data-compact={compact}
      data-under={under}
      data-unplanned={card.origin === "unplanned"}
      data-expedite={card.classOfService === "expedite"}
      data-blocked={card.openBlockers.length > 0}
      data-open={open}
      data-lifted={isDragging}
      data-picked={picked}
      data-changed={changed}
      data-chosen={chosen}
      onClick={({ shiftKey, ctrlKey, metaKey }) =>
        shiftKey || ctrlKey || metaKey ? onChoose(card) : onOpen(card)
      }
      onFocus={() => onFocus(card)}
      onKeyDown={(event) => onKey(event, card)}
      onPointerDown={
        draggable ? (listeners?.onPointerDown as PointerEventHandler | undefined) : undefined
      }
    >
      <CardFace
        card={card}
        compact={compact}
        facts={facts}
        around={around}
        told={told}
        whose={whose}
        childrenToo={childrenToo}
        childrenOpen={childrenOpen}
      />
    </div>
  );
});
