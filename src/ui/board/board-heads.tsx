import { useDraggable, useDroppable } from "@dnd-kit/core";
import { Plus } from "lucide-react";
import type { PointerEventHandler, ReactNode } from "react";
import { limitTitle } from "@/core/board/board-limits";
import { columnWords, type Column } from "@/core/board/column";
import { shortDays } from "@/ui/kit/time";
import { PartLimit } from "./part-limit";
import type { ColumnHeld } from "./use-board-limits";
import { ReadyMark } from "@/ui/kit/ready-mark";
import { ColumnMenu } from "./column-menu";
import { ColumnStrip } from "./column-strip";
import { Slots } from "./slots";
import type { DrawnColumns } from "./use-drawn-columns";
import type { FoldsHandle } from "./use-folds";

/**
 * Heads of all columns: the stage, its part, the limit as slots, and the ladder across the whole
 * board.
 */
export function BoardHeads({
  drawn: { columns, strips, firsts },
  byStages,
  folds,
  onOrder,
  held,
  inCells,
  ready,
  tallyWords,
  defaultSize,
  ladder,
  onOpen,
  onOpenReady,
  onAdd,
}: {
  drawn: DrawnColumns;
  /** Whether they are the steps of the process, which the ladder goes over. */
  byStages: boolean;
  folds: FoldsHandle;
  /** Puts a column where another is; null where the order is not this person's. */
  onOrder: ((columnId: string, onto: string) => void) | null;
  /** What stands against the limit of each column, by its id. */
  held: ReadonlyMap<string, ColumnHeld>;
  /** The limits that stand in cells, and not here. */
  inCells: ReadonlySet<string>;
  /** How many of a column are ready for their next step. */
  ready: Readonly<Record<string, number>>;
  /** What is added up of a column, and shown of it, in words. */
  tallyWords: (column: Column) => string | null;
  /** What an item without a size counts for. */
  defaultSize: number;
  ladder: Record<string, number | null>;
  onOpen: (column: Column) => void;
  onOpenReady: (column: Column) => void;
  /** Null where nothing may be added. */
  onAdd: ((column: Column) => void) | null;
}) {
  return (
    <div className="board-grid sticky top-0 z-20 bg-paper">
      {columns.map((column) => {
        const first = firsts.has(column.id);
        const average = ladder[column.id];
        if (strips.has(column.id))
          return (
            <ColumnStrip
              key={column.id}
              column={column}
              held={held.get(column.id)!}
              defaultSize={defaultSize}
              onOpen={() => folds.turnColumn(column.id)}
            />
          );
        return (
          <Head key={column.id} column={column} first={first} mayOrder={onOrder !== null}>
            <ColumnMenu column={column} columns={columns} folds={folds} onOrder={onOrder} />
            <HeadWords
              column={column}
              first={first}
              held={held.get(column.id)!}
              inCells={inCells}
              ready={ready[column.id] ?? 0}
              tally={tallyWords(column)}
              defaultSize={defaultSize}
              onOpen={() => onOpen(column)}
              onOpenReady={() => onOpenReady(column)}
            />
            {onAdd && column.part !== "finished" && (
              <button
                type="button"
                className="add-here add-head"
                aria-label={`Add at the head of ${columnWords(column)}`}
                onPointerDown={(event) => event.stopPropagation()}
                onClick={() => onAdd(column)}
              >
                <Plus size={13} aria-hidden="true" />
              </button>
            )}
            {byStages && <LadderStep column={column} average={average} />}
          </Head>
        );
      })}
    </div>
  );
}

/** What a column is called, how full it is, what it adds up to. */
function HeadWords({
  column,
  first,
  held: { limit, count, outside, notShown, within },
  inCells,
  ready,
  tally,
  defaultSize,
  onOpen,
  onOpenReady,
}: {
  column: Column;
  first: boolean;
  held: ColumnHeld;
  inCells: ReadonlySet<string>;
  /** How many are ready for their next step. */
  ready: number;
  tally: string | null;
  defaultSize: number;
  onOpen: () => void;
  onOpenReady: () => void;
}) {
  return (
    <div className="column-head min-h-[38px] px-2">
      <h2 className="truncate text-[14px] leading-tight">
        {first ? column.stage : ""}{" "}
        <span className={`font-normal text-ink-soft ${first ? "text-[13px]" : "pl-1 text-[13px]"}`}>
          {column.name !== column.stage ? column.name : ""}
        </span>
      </h2>
      <button
        type="button"
        onClick={onOpen}
        className="mt-0.5 flex min-h-6 max-w-full min-w-6 flex-col items-start text-left hover:underline"
      >
        <Slots
          count={count}
          limit={limit}
          part={column.part}
          ready={ready}
          outside={outside}
          title={limit ? limitTitle(limit, defaultSize) : undefined}
        />
        {tally && (
          <span className="block max-w-full truncate text-left text-[11.5px] text-ink-soft">
            {tally}
          </span>
        )}
        {notShown > 0 && (
          <span className="block text-left text-[11.5px] text-ink-soft">
            {notShown} of them not on this board
          </span>
        )}
        <span className="flex flex-wrap gap-x-2">
          {within.map(
            (one) =>
              !inCells.has(one.id) && (
                <PartLimit key={one.id} limit={one} defaultSize={defaultSize} />
              ),
          )}
        </span>
        <span className="sr-only">
          in {column.stage} {column.name}, show the items
        </span>
      </button>
      {ready > 0 && (
        <button
          type="button"
          onClick={onOpenReady}
          className="flex min-h-6 items-center gap-1 text-[11.5px] font-semibold text-rest-ink hover:underline"
        >
          <ReadyMark />
          {ready} ready
          <span className="sr-only"> in {columnWords(column)}, show them</span>
        </button>
      )}
    </div>
  );
}

/** A head can be dragged to another place; the stage goes with it. */
function Head({
  column,
  first,
  mayOrder,
  children,
}: {
  column: Column;
  first: boolean;
  mayOrder: boolean;
  children: ReactNode;
}) {
  const {
    setNodeRef: dragRef,
    listeners,
    isDragging,
    transform,
  } = useDraggable({ id: `head ${column.id}`, disabled: !mayOrder });
  const {
    setNodeRef: dropRef,
    isOver,
    active,
  } = useDroppable({ id: `head of ${column.id}`, data: { columnId: column.id } });
  return (
    <div
      ref={(node) => {
        dragRef(node);
        dropRef(node);
      }}
      className={`board-cell flex flex-col !bg-transparent !px-0 !pb-0 ${mayOrder ? "cursor-grab" : ""}`}
      style={
        isDragging && transform
          ? { transform: `translateX(${transform.x}px)`, opacity: 0.6 }
          : undefined
      }
      data-first-part={first}
      data-part="head"
      data-head={column.id}
      data-over={isOver && String(active?.id).startsWith("head ")}
      onPointerDown={
        mayOrder ? (listeners?.onPointerDown as PointerEventHandler | undefined) : undefined
      }
    >
      {children}
    </div>
  );
}

const HIGH = 7;
const LOW = 19;
const MIDDLE = (HIGH + LOW) / 2;

/** One step of the ladder; its ends meet those of its neighbours half way. */
function LadderStep({ column, average }: { column: Column; average: number | null | undefined }) {
  if (column.part === "finished") return <div className="ladder mt-auto" />;
  const y = column.part === "working" ? HIGH : LOW;
  const slope = (mirrored: boolean) => (
    <svg
      width="9"
      height="26"
      className={`absolute top-0 ${mirrored ? "right-0" : "left-0"}`}
      aria-hidden="true"
    >
      <line
        x1={0}
        y1={mirrored ? y : MIDDLE}
        x2={9}
        y2={mirrored ? MIDDLE : y}
        stroke="var(--accent)"
        strokeWidth="2"
      />
    </svg>
  );
  return (
    <div className="ladder mt-auto">
      {slope(false)}
      <div className="ladder-step" style={{ top: y - 1 }} />
      {slope(true)}
      {average !== null && average !== undefined && (
        <span
          className={`ladder-label ${column.part === "working" ? "text-accent" : "text-rest-ink"}`}
          style={{ top: y, color: column.part === "working" ? "var(--accent)" : "var(--rest-ink)" }}
          title="Average time of the items finished in the last 12 weeks"
        >
          {shortDays(average)}
        </span>
      )}
    </div>
  );
}
