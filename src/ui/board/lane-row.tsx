"use client";
import { TextButton } from "@/ui/kit/button";
import { counted } from "@/core/formats/counted";
import { useDroppable } from "@dnd-kit/core";
import { memo, type ReactNode } from "react";
import type { Card } from "@/core/board/card";
import type { Column } from "@/core/board/column";
import type { Lane } from "@/core/board/lane";
import type { Stands } from "./use-board-parts";
import type { Targets } from "./use-targets";

/** One lane across the board. */
export const LaneRow = memo(function LaneRow({
  lane,
  columns,
  firsts,
  targets,
  onlyLane,
  stands,
  renderCard,
  finishedSummary,
  unsent,
  onMore,
  fill,
}: {
  lane: Lane<Card>;
  columns: Column[];
  firsts: Set<string>;
  targets: Targets;
  onlyLane: boolean;
  stands: Stands;
  renderCard: (card: Card, column: Column) => ReactNode;
  finishedSummary: ReactNode;
  /** How many finished items of the lane are in a column beside its cards. */
  unsent: (lane: Lane<Card>, column: Column) => number;
  onMore: (lane: Lane<Card>, column: Column) => void;
  fill: boolean;
}) {
  // What is finished never makes a lane taller than what is in progress in it.
  const tallest = Math.max(
    ...columns.map((c) =>
      c.part === "finished" ? 0 : lane.items.filter((card) => stands(card, c)).length,
    ),
  );
  const finishedShown = Math.max(1, tallest - (finishedSummary ? 1 : 0));
  const items = columns.reduce((sum, c) => sum + unsent(lane, c), lane.items.length);
  return (
    <section
      aria-label={`Lane ${lane.name}`}
      className={`${lane.expedite ? "expedite-lane mb-1.5" : ""} ${fill ? "flex flex-1 flex-col" : ""}`}
    >
      {(!onlyLane || lane.expedite) && (
        <h3
          className="flex items-baseline gap-2 border-t border-line px-2 py-0.5 font-display text-[12.5px]"
          style={lane.expedite ? { borderTop: "none" } : undefined}
        >
          {lane.name}{" "}
          <span className="font-sans text-[12.5px] font-normal text-ink-soft">
            {counted(items, "item")}
          </span>
        </h3>
      )}
      <div className={`board-grid ${fill ? "flex-1" : ""}`}>
        {columns.map((column) => (
          <Cell
            key={column.id}
            lane={lane}
            column={column}
            first={firsts.has(column.id)}
            target={targets.columns[column.id]}
            over={targets.over === column.id}
          >
            <CellCards
              cards={lane.items.filter((card) => stands(card, column))}
              column={column}
              most={column.part === "finished" ? finishedShown : Infinity}
              above={column.part === "finished" ? finishedSummary : null}
              label={`${lane.name}, ${column.stage} ${column.name}`}
              renderCard={renderCard}
              unsent={unsent(lane, column)}
              onMore={() => onMore(lane, column)}
            />
          </Cell>
        ))}
      </div>
    </section>
  );
});

function CellCards({
  cards,
  column,
  most,
  above,
  label,
  renderCard,
  unsent,
  onMore,
}: {
  cards: Card[];
  column: Column;
  most: number;
  above: ReactNode;
  label: string;
  renderCard: (card: Card, column: Column) => ReactNode;
  unsent: number;
  onMore: () => void;
}) {
  const shown =
    column.part === "finished"
      ? [...cards].sort((a, b) => b.enteredStateAt - a.enteredStateAt).slice(0, most)
      : cards;
  const beyond = cards.length - shown.length + unsent;
  return (
    <>
      {above}
      <div role="list" aria-label={label} className="min-h-6 grow">
        {shown.map((card) => renderCard(card, column))}
      </div>
      {beyond > 0 && (
        <TextButton className="finished-more" onClick={onMore}>
          and {beyond} more
        </TextButton>
      )}
    </>
  );
}

function Cell({
  lane,
  column,
  first,
  target,
  over,
  children,
}: {
  lane: Lane<Card>;
  column: Column;
  first: boolean;
  target?: string;
  over: boolean;
  children: ReactNode;
}) {
  const { setNodeRef, isOver } = useDroppable({
    id: `${lane.id}|${column.id}`,
    data: { columnId: column.id },
  });
  return (
    <div
      ref={setNodeRef}
      className={`board-cell flex flex-col ${column.part === "waiting" ? "hatch" : ""}`}
      data-column={column.id}
      data-part={column.part}
      data-first-part={first}
      data-target={target}
      data-over={isOver || over}
    >
      {children}
    </div>
  );
}
