"use client";
import type { ReactNode } from "react";
import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import type { StateId } from "@/core/workflow/state";
import type { Column } from "@/core/board/column";
import type { LaneField } from "@/core/board/lane";
import type { ProjectSummary } from "@/core/flow/summary";
import { BoardHeads } from "./board-heads";
import { FinishedSummary } from "./finished-summary";
import { LaneRow } from "./lane-row";
import type { BoardParts, Stands } from "./use-board-parts";
import type { useFinished } from "./use-finished";
import type { Targets } from "./use-targets";

/** The columns with their heads, and the lanes across them. */
export function BoardGrid({
  view,
  parts,
  lanesBy,
  summary,
  targets,
  stands,
  finished,
  renderCard,
  now,
}: {
  view: BoardView;
  parts: BoardParts;
  lanesBy: LaneField;
  summary: ProjectSummary;
  targets: Targets;
  stands: Stands;
  finished: ReturnType<typeof useFinished>;
  renderCard: (card: Card, column: Column) => ReactNode;
  now: number;
}) {
  const { columns, laneList, byStages, onBoard, counts, firsts } = parts;
  const mainLane = laneList.findIndex((l) => !l.expedite);
  const free = view.board.columnsBy === "free";
  const { expectation } = summary.pulse;
  const states = view.workflows.flatMap((w) => w.states);
  const nameOfState = (id: StateId) => states.find((s) => s.id === id)?.name ?? "A state";
  const finishedSummary = (
    <FinishedSummary
      view={view}
      onBoard={onBoard}
      expectation={expectation}
      now={now}
      onOpen={() => void finished.openAll()}
    />
  );
  return (
    <div className="min-w-0 flex-1 overflow-auto px-3">
      <div className="flex min-h-full min-w-fit flex-col">
        <BoardHeads
          columns={columns}
          byStages={byStages}
          mayOrder={view.rights.design && (byStages || free)}
          counts={counts}
          beyond={view.beyondScope}
          stateCounts={parts.stateCounts}
          nameOfState={nameOfState}
          ladder={summary.ladder}
          onOpen={finished.openColumn}
        />
        {laneList.map((lane, i) => (
          <LaneRow
            key={lane.id}
            lane={lane}
            columns={columns}
            firsts={firsts}
            targets={targets}
            onlyLane={lanesBy === "none"}
            stands={stands}
            renderCard={renderCard}
            finishedSummary={i === mainLane && byStages ? finishedSummary : null}
            unsent={finished.unsent}
            onMore={finished.openCell}
            fill={i === laneList.length - 1}
          />
        ))}
      </div>
    </div>
  );
}
