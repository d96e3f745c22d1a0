"use client";
import { useDraggable, useDroppable } from "@dnd-kit/core";
import { ArrowDown, ArrowUp, ArrowUpToLine, GripVertical } from "lucide-react";
import type { ReactNode } from "react";
import type { Around } from "@/core/board/around";
import type { Card } from "@/core/board/card";
import { realityOf } from "@/core/board/reality";
import { Button } from "@/ui/kit/button";
import { Initials } from "@/ui/kit/initials";
import { ago, shortDate } from "@/ui/kit/time";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import type { BacklogOrder } from "./use-backlog-order";

/** Gives way to the title where an item or a list is open beside the backlog. */
const ASIDE = "shrink-0 text-[12.5px] @max-3xl:hidden";

/** One item of the backlog, with its place in it. */
export function BacklogRow({
  card,
  around,
  position,
  open,
  movable,
  assignee,
  now,
  order,
  onOpen,
}: {
  card: Card;
  around: Around | undefined;
  /** From 1. */
  position: number;
  open: boolean;
  movable: boolean;
  assignee: string | null;
  now: number;
  order: BacklogOrder;
  onOpen: (card: Card) => void;
}) {
  const { key, classOfService } = card;
  const reality = realityOf(card, undefined, around);
  return (
    <Row card={card} onKey={order.onKey} open={open} movable={movable}>
      <span className="w-8 shrink-0 text-right font-display text-ink-soft">{position}</span>
      <TypeGlyph typeId={card.typeId} />
      <span className="key w-[74px] shrink-0">{key}</span>
      <button
        type="button"
        tabIndex={-1}
        className="min-w-0 flex-1 truncate text-left font-medium hover:underline"
        onClick={() => onOpen(card)}
      >
        {card.title}
      </button>
      {reality && (
        <button
          type="button"
          tabIndex={-1}
          disabled={!movable}
          className="shrink-0 text-[12.5px] font-semibold text-signal-ink enabled:hover:underline"
          data-reality={reality.kind}
          title="Pull it: it is begun"
          onClick={() => order.pull(card)}
        >
          {reality.words}
        </button>
      )}
      {classOfService !== "standard" && (
        <span className="shrink-0 text-[12.5px] text-signal-ink">
          {classOfService === "fixed date" && card.dueOn
            ? `by ${shortDate(card.dueOn)}`
            : classOfService}
        </span>
      )}
      {card.origin === "unplanned" && <em className={`${ASIDE} text-ink-soft`}>unplanned</em>}
      {card.severity && <span className={`${ASIDE} w-16 text-ink-soft`}>{card.severity}</span>}
      <span className={`${ASIDE} w-14 text-ink-soft`}>{card.priority}</span>
      <span className="w-8 shrink-0 text-right text-[12.5px]" title="estimate">
        {card.estimate ?? "–"}
      </span>
      <span className={`${ASIDE} w-[92px] text-right text-ink-soft`}>
        {ago(card.enteredStateAt, now)}
      </span>
      <span className="w-6 shrink-0">{assignee && <Initials name={assignee} />}</span>
      {movable && (
        <span className="flex shrink-0 gap-0.5">
          <RowButton label={`${key} to the top`} onClick={() => void order.place(card, null)}>
            <ArrowUpToLine size={14} aria-hidden="true" />
          </RowButton>
          <RowButton label={`${key} one up`} onClick={() => order.step(card, -1)}>
            <ArrowUp size={14} aria-hidden="true" />
          </RowButton>
          <RowButton label={`${key} one down`} onClick={() => order.step(card, 1)}>
            <ArrowDown size={14} aria-hidden="true" />
          </RowButton>
          <Button small onClick={() => order.pull(card)}>
            Pull
          </Button>
        </span>
      )}
    </Row>
  );
}

function RowButton({
  label,
  onClick,
  children,
}: {
  label: string;
  onClick: () => void;
  children: ReactNode;
}) {
  return (
    <Button
      aria-label={label}
      title={label}
      onClick={onClick}
      look="quiet"
      small
      className="!px-1.5"
    >
      {children}
    </Button>
  );
}

function Row({
  card,
  open,
  movable,
  onKey,
  children,
}: {
  card: Card;
  open: boolean;
  movable: boolean;
  onKey: BacklogOrder["onKey"];
  children: ReactNode;
}) {
  const {
    setNodeRef: drag,
    listeners,
    transform,
    isDragging,
  } = useDraggable({ id: card.id, disabled: !movable });
  const { setNodeRef: drop, isOver } = useDroppable({ id: card.id });
  return (
    <li
      ref={drop}
      tabIndex={0}
      data-key={card.key}
      aria-label={`${card.key} ${card.title}`}
      onKeyDown={(e) => onKey(e, card)}
      className={`flex items-center gap-2 border-b border-line py-1 ${open ? "bg-accent-soft" : "hover:bg-sheet"} ${isOver && !isDragging ? "shadow-[inset_0_2px_0_var(--accent)]" : ""}`}
      style={
        transform
          ? {
              transform: `translateY(${transform.y}px)`,
              zIndex: 5,
              position: "relative",
              background: "var(--sheet)",
            }
          : undefined
      }
    >
      {movable && (
        <span ref={drag} {...listeners} className="cursor-grab text-line-strong" aria-hidden="true">
          <GripVertical size={14} />
        </span>
      )}
      {children}
    </li>
  );
}
