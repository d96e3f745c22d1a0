"use client";
import { useMemo, type ReactNode } from "react";
import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import type { Column } from "@/core/board/column";
import type { Lane, LaneField } from "@/core/board/lane";
import type { ProjectSummary } from "@/core/flow/summary";
import { limitsOfCell, limitsOfLane } from "@/core/board/board-limits";
import { SightArea } from "@/ui/kit/in-sight";
import type { AmountWords } from "@/ui/view/amount-words";
import { BoardHeads } from "./board-heads";
import { BoardWideLimits } from "./board-wide-limits";
import { FinishedSummary, finishedOf } from "./finished-summary";
import { LaneHead } from "./lane-head";
import { laneTops, LaneRow } from "./lane-row";
import type { BoardAdding } from "./use-board-adding";
import type { BoardParts } from "./use-board-parts";
import type { useFinished } from "./use-finished";
import type { Targets } from "./use-targets";

/** The columns with their heads, and the lanes across them. */
export function BoardGrid({
  view,
  parts,
  lanesBy,
  summary,
  targets,
  kept,
  finished,
  renderCard,
  adding,
  amountWords,
  now,
}: {
  view: BoardView;
  parts: BoardParts;
  lanesBy: LaneField;
  summary: ProjectSummary;
  targets: Targets;
  /** Cards that are drawn wherever they stand. */
  kept: ReadonlySet<string>;
  finished: ReturnType<typeof useFinished>;
  renderCard: (card: Card, column: Column) => ReactNode;
  adding: BoardAdding;
  amountWords: AmountWords;
  now: number;
}) {
  const { columns, laneList, byStages, firsts, cells } = parts;
  const free = view.board.columnsBy === "free";
  const { expectation } = summary.pulse;
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
  const inCells = useMemo(() => {
    const cellsOf = (lane: Lane<Card>) =>
      columns.flatMap((column) => limitsOfCell(parts.limits, column, lane, lanesBy));
    return new Set(laneList.flatMap(cellsOf).map(({ id }) => id));
  }, [parts.limits, columns, laneList, lanesBy]);
  return (
    <SightArea className="min-w-0 flex-1 overflow-auto px-3" data-board-area="">
      <div className="flex min-h-full min-w-fit flex-col">
        <BoardWideLimits view={view} parts={parts} />
        <BoardHeads
          columns={columns}
          byStages={byStages}
          mayOrder={view.rights.design && (byStages || free)}
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
        {laneList.map((lane, i) => (
          <LaneRow
            key={lane.id}
            lane={lane}
            head={
              (lanesBy !== "none" || lane.expedite) && (
                <LaneHead
                  lane={lane}
                  tally={parts.laneTallies.get(lane.id)}
                  words={amountWords}
                  limits={limitsOfLane(parts.limits, lane, lanesBy)}
                  defaultSize={view.defaultSize}
                  adding={adding}
                />
              )
            }
            top={tops[i]}
            cells={cells}
            limitsIn={(column) => limitsOfCell(parts.limits, column, lane, lanesBy)}
            defaultSize={view.defaultSize}
            columns={columns}
            firsts={firsts}
            targets={targets}
            kept={kept}
            renderCard={renderCard}
            adding={adding}
            finishedSummary={byStages ? summaryOf(lane) : null}
            unsent={finished.unsent}
            onMore={finished.openCell}
            fill={i === laneList.length - 1}
          />
        ))}
      </div>
    </SightArea>
  );
}
