"use client";
import { useMemo } from "react";
import type { BoardView } from "@/core/board/board-view";
import type { FlowSummary } from "@/core/flow/summary";
import type { CardFacts } from "./board-card";

/** What all cards of a board are drawn with. */
export function useCardFacts(view: BoardView, summary: FlowSummary, now: number): CardFacts {
  return useMemo(
    () => ({
      zone: view.project.zone,
      now,
      percentiles: summary.percentiles,
      expectationDays: summary.pulse.expectation.days,
      nameOf: new Map(view.people.map((p) => [p.id, p.name])),
      groupName: new Map([...view.teams, ...view.sprints].map(({ id, name }) => [id, name])),
      typeName: new Map(view.types.map((t) => [t.id, t.name])),
      ownFields: view.ownFields,
      states: new Map(view.workflows.flatMap((w) => w.states.map((s) => [s.id, s]))),
      saysState: view.board.columnsBy !== "state",
    }),
    [view, now, summary],
  );
}
