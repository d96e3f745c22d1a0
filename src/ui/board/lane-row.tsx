"use client";
import { useDroppable } from "@dnd-kit/core";
import { Plus } from "lucide-react";
import { memo, type ReactNode } from "react";
import type { Card } from "@/core/board/card";
import { inCell, type Cells } from "@/core/board/cells";
import type { CountedLimit } from "@/core/board/board-limits";
import { columnWords, type Column } from "@/core/board/column";
import type { Lane } from "@/core/board/lane";
import { TextButton } from "@/ui/kit/button";
import { InSight } from "@/ui/kit/in-sight";
import { PartLimit } from "./part-limit";
import type { BoardAdding } from "./use-board-adding";
import type { Targets } from "./use-targets";

/** So many cards of a cell come into sight together. */
const TOGETHER = 6;
/** About how high a card is, in pixels, before it was drawn. */
const CARD_PX = { compact: 58, whole: 104 };
/** So far down a board is drawn before its height is known. */
const FIRST_SIGHT_PX = 1_000;

/** About how high a card of a column is. */
const highOf = ({ part }: Column) => (part === "working" ? CARD_PX.whole : CARD_PX.compact);

/** What is finished never makes a lane taller than what is in progress in it. */
export function finishedShown(
  cells: Cells<Card>,
  lane: Lane<Card>,
  columns: readonly Column[],
  summed: boolean,
): number {
  const open = columns.filter((column) => column.part !== "finished");
  const tallest = Math.max(0, ...open.map((column) => inCell(cells, lane, column).length));
  return Math.max(1, tallest - (summed ? 1 : 0));
}

/** About how far down each lane begins. */
export function laneTops(
  cells: Cells<Card>,
  lanes: readonly Lane<Card>[],
  columns: readonly Column[],
): number[] {
  const tops = [0];
  for (const [i, lane] of lanes.entries()) tops.push(tops[i] + laneHeight(cells, lane, columns));
  return tops;
}

/** About how high a lane is. */
const laneHeight = (cells: Cells<Card>, lane: Lane<Card>, columns: readonly Column[]): number =>
  Math.max(
    40,
    ...columns
      .filter((column) => column.part !== "finished")
      .map((column) => inCell(cells, lane, column).length * highOf(column)),
  );

/** One lane across the board. */
export const LaneRow = memo(function LaneRow({
  lane,
  head,
  top,
  cells,
  limitsIn,
  defaultSize,
  columns,
  strips,
  firsts,
  targets,
  kept,
  renderCard,
  adding,
  finishedSummary,
  unsent,
  onMore,
  fill,
  folded,
}: {
  lane: Lane<Card>;
  /** What stands above it; null: nothing. */
  head: ReactNode;
  /** About how far down it begins. */
  top: number;
  cells: Cells<Card>;
  /** The limits of the lane in a column. */
  limitsIn: (column: Column) => readonly CountedLimit[];
  /** What an item without a size counts for. */
  defaultSize: number;
  columns: Column[];
  /** Those of them that are folded. */
  strips: ReadonlySet<string>;
  firsts: ReadonlySet<string>;
  targets: Targets;
  /** Cards that are drawn wherever they stand. */
  kept: ReadonlySet<string>;
  renderCard: (card: Card, column: Column) => ReactNode;
  adding: BoardAdding;
  finishedSummary: ReactNode;
  /** How many finished items of the lane are in a column beside its cards. */
  unsent: (lane: Lane<Card>, column: Column) => number;
  onMore: (lane: Lane<Card>, column: Column) => void;
  fill: boolean;
  /** Whether only its head is shown. */
  folded: boolean;
}) {
  const most = finishedShown(cells, lane, columns, finishedSummary !== null);
  return (
    <section
      aria-label={`Lane ${lane.name}`}
      className={`${lane.expedite ? "expedite-lane mb-1.5" : ""} ${fill ? "flex flex-1 flex-col" : ""}`}
    >
      {head}
      {!folded && (
        <div className={`board-grid ${fill ? "flex-1" : ""}`}>
          {columns.map((column) => (
            <Cell
              key={column.id}
              lane={lane}
              column={column}
              first={firsts.has(column.id)}
              target={targets.lanes[lane.id] ? "closed" : targets.columns[column.id]}
              over={targets.over?.columnId === column.id && targets.over.laneId === lane.id}
            >
              {strips.has(column.id) ? (
                <span className="strip-count">{inCell(cells, lane, column).length || ""}</span>
              ) : (
                <>
                  {column.part === "finished" && finishedSummary}
                  {limitsIn(column).map((limit) => (
                    <PartLimit key={limit.id} limit={limit} defaultSize={defaultSize} bare />
                  ))}
                  {adding.line(lane, column, "head")}
                  <CellCards
                    cards={inCell(cells, lane, column)}
                    column={column}
                    top={top}
                    most={column.part === "finished" ? most : Infinity}
                    label={`${lane.name}, ${column.stage} ${column.name}`}
                    kept={kept}
                    renderCard={renderCard}
                    unsent={unsent(lane, column)}
                    onMore={() => onMore(lane, column)}
                  >
                    <AddFoot lane={lane} column={column} adding={adding} />
                  </CellCards>
                </>
              )}
            </Cell>
          ))}
        </div>
      )}
    </section>
  );
});

function CellCards({
  cards,
  column,
  top,
  most,
  label,
  kept,
  renderCard,
  unsent,
  onMore,
  children,
}: {
  cards: readonly Card[];
  column: Column;
  top: number;
  most: number;
  label: string;
  kept: ReadonlySet<string>;
  renderCard: (card: Card, column: Column) => ReactNode;
  unsent: number;
  onMore: () => void;
  /** Below the last card. */
  children: ReactNode;
}) {
  const shown = cards.length > most ? cards.slice(0, most) : cards;
  const beyond = cards.length - shown.length + unsent;
  const high = highOf(column);
  const parts = Array.from({ length: Math.ceil(shown.length / TOGETHER) }, (_, i) =>
    shown.slice(i * TOGETHER, (i + 1) * TOGETHER),
  );
  return (
    <>
      <div role="list" aria-label={label} className="min-h-6">
        {parts.map((part, i) => (
          <InSight
            key={i}
            first={top + i * TOGETHER * high < FIRST_SIGHT_PX}
            keep={part.some((card) => kept.has(card.id))}
            height={part.length * high}
          >
            {() => part.map((card) => renderCard(card, column))}
          </InSight>
        ))}
      </div>
      {children}
      <div className="grow" />
      {beyond > 0 && (
        <TextButton className="finished-more" onClick={onMore}>
          and {beyond} more
        </TextButton>
      )}
    </>
  );
}

/** What adds an item below the last one of a cell. */
function AddFoot({
  lane,
  column,
  adding,
}: {
  lane: Lane<Card>;
  column: Column;
  adding: BoardAdding;
}) {
  const line = adding.line(lane, column, "foot");
  if (line || !adding.may || column.part === "finished") return line;
  return (
    <button
      type="button"
      className="add-here"
      aria-label={`Add at the foot of ${columnWords(column)}, ${lane.name}`}
      onClick={() => adding.open(lane, column, "foot")}
    >
      <Plus size={13} aria-hidden="true" />
    </button>
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
    data: { columnId: column.id, laneId: lane.id },
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
