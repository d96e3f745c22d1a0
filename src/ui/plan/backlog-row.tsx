"use client";
import { useDraggable, useDroppable } from "@dnd-kit/core";
import { ArrowUpToLine, GripVertical } from "lucide-react";
import type { ReactNode } from "react";
import type { Around } from "@/core/board/around";
import type { Card } from "@/core/board/card";
import { realityOf } from "@/core/board/reality";
import type { DueHere } from "@/core/plan/reach-lines";
import { Button } from "@/ui/kit/button";
import { Initials } from "@/ui/kit/initials";
import { ago, shortDate } from "@/ui/kit/time";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { PriorityCell, SizeCell } from "./row-cells";
import { RowMenu, type PlanChoices } from "./row-menu";
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
  due,
  order,
  menu,
  chosen,
  onChoose,
  onOpen,
}: {
  card: Card;
  around: Around | undefined;
  /** From 1. */
  position: number;
  /** Whether it is one of several that something is done to. */
  chosen: boolean;
  /** @param run with all between it and the one that was turned last; null where nobody may */
  onChoose: ((card: Card, run: boolean) => void) | null;
  open: boolean;
  movable: boolean;
  assignee: string | null;
  now: number;
  /** Whether it will be finished by its day where it stands; null where that cannot be said. */
  due: DueHere | null;
  order: BacklogOrder;
  /** What it can be planned into; null where it may not be. */
  menu: PlanChoices | null;
  onOpen: (card: Card) => void;
}) {
  const { key, classOfService } = card;
  const reality = realityOf(card, undefined, around);
  return (
    <Row card={card} onKey={order.onKey} open={open} chosen={chosen} movable={movable}>
      <button
        type="button"
        tabIndex={-1}
        className="backlog-position"
        aria-pressed={chosen}
        aria-label={`${position}: choose ${key}`}
        title="Choose it, with others; with Shift all between"
        disabled={onChoose === null}
        onClick={(event) => onChoose?.(card, event.shiftKey)}
      >
        {position}
      </button>
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
      {card.dueOn ? (
        <DueWords dueOn={card.dueOn} due={due} />
      ) : (
        classOfService !== "standard" && (
          <span className="shrink-0 text-[12.5px] text-signal-ink">{classOfService}</span>
        )
      )}
      {card.origin === "unplanned" && <em className={`${ASIDE} text-ink-soft`}>unplanned</em>}
      {card.severity && <span className={`${ASIDE} w-16 text-ink-soft`}>{card.severity}</span>}
      <span className={`${ASIDE} w-14 text-ink-soft`}>
        <PriorityCell card={card} order={order} mayEdit={menu !== null} />
      </span>
      <span className="w-10 shrink-0 text-right text-[12.5px]" title="size in points">
        <SizeCell card={card} order={order} mayEdit={menu !== null} />
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
          {menu && <RowMenu card={card} order={order} choices={menu} />}
          <Button small onClick={() => order.pull(card)}>
            Pull
          </Button>
        </span>
      )}
    </Row>
  );
}

/** By when it is promised, and whether that will be kept from here. */
function DueWords({ dueOn, due }: { dueOn: string; due: DueHere | null }) {
  const look = due === "too late" ? "font-semibold text-alarm" : "text-signal-ink";
  return (
    <span className={`shrink-0 text-[12.5px] ${look}`} data-due={due ?? undefined}>
      by {shortDate(dueOn)}
      {due === "too late" && ", too late here"}
      {due === "at risk" && ", at risk here"}
    </span>
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
  chosen,
  movable,
  onKey,
  children,
}: {
  card: Card;
  open: boolean;
  chosen: boolean;
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
      data-chosen={chosen || undefined}
      aria-label={`${card.key} ${card.title}`}
      onKeyDown={(e) => onKey(e, card)}
      className={`flex items-center gap-2 border-b border-line py-1 ${open || chosen ? "bg-accent-soft" : "hover:bg-sheet"} ${isOver && !isDragging ? "shadow-[inset_0_2px_0_var(--accent)]" : ""}`}
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
