"use client";
import { useDraggable, useDroppable } from "@dnd-kit/core";
import { GripVertical } from "lucide-react";
import type { ReactNode } from "react";
import type { Around } from "@/core/board/around";
import type { Card } from "@/core/board/card";
import { realityOf } from "@/core/board/reality";
import type { FactValue } from "@/core/condition/facts";
import type { BacklogView } from "@/core/plan/backlog-view";
import type { DueHere } from "@/core/plan/reach-lines";
import { Button } from "@/ui/kit/button";
import { shortDate } from "@/ui/kit/time";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import type { useCellEdit } from "@/ui/table/use-cell-edit";
import { FactCell, ParentCell } from "./backlog-cell";
import type { DrawnBacklogColumn } from "./backlog-columns";
import { RowMenu, type PlanChoices } from "./row-menu";
import type { BacklogOrder } from "./use-backlog-order";

/** Gives way to the title where an item or a list is open beside the backlog. */
const ASIDE = "shrink-0 text-[12.5px] @max-3xl:hidden";

interface RowProps {
  card: Card;
  around: Around | undefined;
  /** What it says, in the order of the columns; nothing where that is not read yet. */
  values: readonly FactValue[] | undefined;
  parent: { key: string; title: string } | undefined;
  columns: readonly DrawnBacklogColumn[];
  /** From 1. */
  position: number;
  /** Where it is, of one that has been begun. */
  state: string | null;
  open: boolean;
  movable: boolean;
  view: BacklogView;
  /** Whether it will be finished by its day where it stands; null where that cannot be said. */
  due: DueHere | null;
  order: BacklogOrder;
  edit: ReturnType<typeof useCellEdit>;
  /** What it can be planned into; null where it may not be. */
  menu: PlanChoices | null;
  /** Whether it is one of several that something is done to. */
  chosen: boolean;
  /** @param run with all between it and the one that was turned last; null where nobody may */
  onChoose: ((card: Card, run: boolean) => void) | null;
  onOpen: (card: Card) => void;
}

/** One item of the backlog, with its place in it. */
export function BacklogRow(props: RowProps) {
  const { card, position, state, open, movable, order, menu, chosen, onChoose, onOpen } = props;
  const { key } = card;
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
      <span className="flex min-w-0 flex-1 items-center gap-2 overflow-hidden">
        <button
          type="button"
          tabIndex={-1}
          className="min-w-[90px] flex-1 truncate text-left font-medium hover:underline"
          onClick={() => onOpen(card)}
        >
          {card.title}
        </button>
        {state !== null && (
          <span className="flex shrink-0 items-center gap-1 text-[12.5px] text-ink-soft">
            <i className="state-level" data-kind={card.stateKind} aria-hidden="true" />
            {state}
          </span>
        )}
        <Notices {...props} />
      </span>
      <Cells {...props} />
      {movable && (
        <span className="backlog-acts">
          {menu && <RowMenu card={card} order={order} choices={menu} />}
          {card.stateKind === "unstarted" && (
            <Button small onClick={() => order.pull(card)}>
              Pull
            </Button>
          )}
        </span>
      )}
    </Row>
  );
}

/** What is to be known of it before it is pulled: begun in truth, promised, urgent, unplanned. */
function Notices({ card, around, movable, due, order, columns }: RowProps) {
  const reality = realityOf(card, undefined, around);
  const { classOfService, dueOn } = card;
  const saysDay = columns.some(({ column }) => column === "dueOn");
  return (
    <>
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
      {dueOn && (!saysDay || due === "too late" || due === "at risk") && (
        <DueWords dueOn={dueOn} due={due} />
      )}
      {!dueOn && classOfService !== "standard" && (
        <span className="shrink-0 text-[12.5px] text-signal-ink">{classOfService}</span>
      )}
      {card.origin === "unplanned" && <em className={`${ASIDE} text-ink-soft`}>unplanned</em>}
    </>
  );
}

/** What it says in each column. */
function Cells({ card, values, parent, columns, view, order, edit, menu }: RowProps) {
  return columns.map((drawn, i) => (
    <span
      key={drawn.column}
      style={{ width: drawn.width }}
      className={`backlog-cell ${drawn.figures ? "figures" : ""} ${drawn.stays ? "" : "@max-2xl:hidden"}`}
    >
      {drawn.column === "parent" ? (
        <ParentCell
          card={card}
          parent={parent}
          pieces={menu?.pieces ?? []}
          view={view}
          order={order}
        />
      ) : (
        <FactCell
          card={card}
          drawn={drawn}
          fact={drawn.column}
          value={values?.[i] ?? null}
          view={view}
          edit={edit}
        />
      )}
    </span>
  ));
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
