"use client";
import { useMemo, type ReactNode } from "react";
import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import type { Column } from "@/core/board/column";
import type { Lane } from "@/core/board/lane";
import type { Figures } from "@/core/flow/summary";
import { limitsOfCell, limitsOfLane } from "@/core/board/board-limits";
import { oneExpectation } from "@/core/flow/pace";
import { EmptyPlace } from "@/ui/across/empty-place";
import { SightArea } from "@/ui/kit/in-sight";
import type { AmountWords } from "@/ui/view/amount-words";
import { BoardHeads } from "./board-heads";
import { BoardWideLimits } from "./board-wide-limits";
import { FinishedSummary, finishedOf } from "./finished-summary";
import { LaneHead } from "./lane-head";
import { laneTops, LaneRow } from "./lane-row";
import type { BoardAdding } from "./use-board-adding";
import type { BoardParts } from "./use-board-parts";
import { useDrawnColumns } from "./use-drawn-columns";
import type { FoldsHandle } from "./use-folds";
import type { useFinished } from "./use-finished";
import type { Targets } from "./use-targets";

/** The columns with their heads, and the lanes across them. */
export function BoardGrid({
  view,
  parts,
  inLanes,
  summary,
  targets,
  kept,
  finished,
  renderCard,
  adding,
  amountWords,
  folds,
  onOrder,
  mine,
  now,
}: {
  view: BoardView;
  parts: BoardParts;
  /** Whether there are others than that for expedite items. */
  inLanes: boolean;
  summary: Figures;
  targets: Targets;
  /** Cards that are drawn wherever they stand. */
  kept: ReadonlySet<string>;
  finished: ReturnType<typeof useFinished>;
  renderCard: (card: Card, column: Column) => ReactNode;
  adding: BoardAdding;
  amountWords: AmountWords;
  folds: FoldsHandle;
  /** Puts a column where another is. */
  onOrder: (columnId: string, onto: string) => void;
  /** The lane of who looks, where lanes are by people; else null. */
  mine: string | null;
  now: number;
}) {
  const { laneList, byStages, cells } = parts;
  const drawn = useDrawnColumns(view, parts, folds);
  const { columns, strips, firsts, widths } = drawn;
  const expectation = oneExpectation(summary.paces);
  const summaryOf = (lane: Lane<Card>) => {
    const told = finishedOf(parts.finishedIn(lane), lane.items, view.project, now);
    return told.items === 0 && laneList.length > 1 ? null : (
      <FinishedSummary
        finished={told}
        expectation={expectation}
        onOpen={() => finished.openLane(lane)}
      />
    );
  };
  const tops = useMemo(() => laneTops(cells, laneList, columns), [laneList, cells, columns]);
  const inCells = useLimitsInCells(parts, columns);
  return (
    <SightArea className="min-w-0 flex-1 overflow-auto px-3" data-board-area="">
      <div className="flex min-h-full min-w-fit flex-col" style={widths}>
        <BoardWideLimits view={view} parts={parts} />
        <BoardHeads
          drawn={drawn}
          byStages={byStages}
          folds={folds}
          onOrder={
            view.rights.design && (byStages || view.board.columnsBy === "free") ? onOrder : null
          }
          held={parts.held}
          inCells={inCells}
          ready={parts.ready}
          tallyWords={({ id }) => amountWords.column(parts.columnTallies.get(id), parts.narrowed)}
          defaultSize={view.defaultSize}
          ladder={summary.ladder}
          onOpen={finished.openColumn}
          onOpenReady={finished.openReady}
          onAdd={
            adding.may
              ? (column) =>
                  adding.open(laneList.find((l) => !l.expedite) ?? laneList[0], column, "head")
              : null
          }
        />
        <EmptyPlace view={view} />
        {laneList.map((lane, i) => (
          <LaneRow
            key={lane.id}
            lane={lane}
            head={
              (inLanes || lane.expedite) && (
                <LaneHead
                  lane={lane}
                  tally={parts.laneTallies.get(lane.id)}
                  words={amountWords}
                  limits={limitsOfLane(parts.limits, lane)}
                  defaultSize={view.defaultSize}
                  adding={adding}
                  folds={folds}
                  closed={targets.lanes[lane.id]}
                  others={lane.id === mine ? laneList.filter((one) => one !== lane) : null}
                />
              )
            }
            top={tops[i]}
            cells={cells}
            limitsIn={(column) => limitsOfCell(parts.limits, column, lane)}
            defaultSize={view.defaultSize}
            columns={columns}
            strips={strips}
            firsts={firsts}
            targets={targets}
            kept={kept}
            renderCard={renderCard}
            adding={adding}
            finishedSummary={byStages ? summaryOf(lane) : null}
            unsent={finished.unsent}
            onMore={finished.openCell}
            fill={i === laneList.length - 1}
            folded={(inLanes || lane.expedite) && folds.folds.lanes.includes(lane.id)}
          />
        ))}
      </div>
    </SightArea>
  );
}

/** The limits that stand in cells, where a lane is what they count. */
function useLimitsInCells(
  { limits, laneList }: Pick<BoardParts, "limits" | "laneList">,
  columns: readonly Column[],
): ReadonlySet<string> {
  return useMemo(() => {
    const ofLane = (lane: Lane<Card>) =>
      columns.flatMap((column) => limitsOfCell(limits, column, lane));
    return new Set(laneList.flatMap(ofLane).map(({ id }) => id));
  }, [limits, columns, laneList]);
}
