"use client";
import { useMemo } from "react";
import type { BoardView } from "@/core/board/board-view";
import { astrayOf } from "@/core/board/astray";
import type { Card } from "@/core/board/card";
import { stagesOf, type Column } from "@/core/board/column";
import { countRest } from "@/core/board/finished";
import { lanes, type LaneField } from "@/core/board/lane";
import type { StateId } from "@/core/workflow/state";
import { compareRanks } from "@/core/item/rank";
import { firstParts } from "./board-heads";
import { inBay } from "./with-card";

export type Stands = (card: Card, column: Column) => boolean;

/** How many items a column counts that this person may not see. */
export const unseenIn = (view: BoardView, column: Pick<Column, "stateIds">): number =>
  column.stateIds.reduce((sum, id) => sum + (view.hidden[id] ?? 0), 0);

/** How many items some states hold: those drawn there, finished ones that are a number, unseen. */
const held = (view: BoardView, drawn: readonly Card[], stateIds: StateId[]): number =>
  drawn.length + countRest(view.finishedRest, stateIds) + unseenIn(view, { stateIds });

/** On a free board cards stand by their place in it, everywhere else by their rank. */
function sorted(cards: Card[], { columnsBy, places }: BoardView["board"]): Card[] {
  return columnsBy === "free"
    ? [...cards].sort((a, b) => compareRanks(places[a.id].rank, places[b.id].rank))
    : cards;
}

const inColumn = (columns: readonly Column[], stands: Stands) => (card: Card) =>
  columns.some((column) => stands(card, column));

/** What of a board is shown, and how it is cut into lanes. */
export interface Shown {
  /** The items that the filter lets through; null: all of them. */
  matching: ReadonlySet<string> | null;
  /** Whether that is what an earlier filter let through, until the new one is asked. */
  waiting: boolean;
  lanes: LaneField;
}

/** What of a board stands where: its columns, the lanes across them, and what is beside them. */
export function useBoardParts(
  view: BoardView,
  { matching, waiting, lanes: by }: Shown,
  stands: Stands,
) {
  const byStages = view.board.columnsBy === "state";
  const columns = useMemo(
    () => (byStages ? stagesOf(view.columns).flatMap((s) => s.columns) : view.columns),
    [view.columns, byStages],
  );
  const firsts = useMemo(
    () => (byStages ? firstParts(view.columns) : new Set(view.columns.map((c) => c.id))),
    [view.columns, byStages],
  );
  const [onBoard, astray, backlog] = useMemo(() => {
    const outside = view.cards.filter((c) => !inBay(view, c));
    const placed = inColumn(columns, stands);
    return [
      sorted(outside.filter(placed), view.board),
      astrayOf(view, byStages ? outside : []),
      view.cards.filter((c) => inBay(view, c)),
    ];
  }, [view, columns, stands, byStages]);
  const [shown, backlogShown] = useMemo(() => {
    const isShown = (card: Card) => matching === null || matching.has(card.id);
    return [onBoard.filter(isShown), backlog.filter(isShown)];
  }, [onBoard, backlog, matching]);
  const laneList = useMemo(() => {
    const made = lanes(shown, by, view.people);
    // An empty board still shows its places.
    return made.some((l) => !l.expedite)
      ? made
      : [...made, { id: "everything", name: "Everything else", expedite: false, items: [] }];
  }, [shown, by, view.people]);
  const counts = useMemo(
    () =>
      Object.fromEntries(
        columns.map((column) => [
          column.id,
          held(
            view,
            onBoard.filter((c) => stands(c, column)),
            column.stateIds,
          ),
        ]),
      ),
    [columns, onBoard, stands, view],
  );
  const stateCounts = useMemo(
    () =>
      Object.fromEntries(
        columns
          .flatMap((column) => Object.keys(column.stateLimits))
          .map((id) => [
            id,
            held(
              view,
              onBoard.filter((c) => c.stateId === id),
              [id],
            ),
          ]),
      ),
    [columns, onBoard, view],
  );
  const byId = useMemo(() => new Map(view.cards.map((c) => [c.id, c])), [view.cards]);
  return {
    byStages,
    waiting,
    columns,
    firsts,
    onBoard,
    astray,
    backlog,
    backlogShown,
    shown,
    laneList,
    counts,
    stateCounts,
    byId,
  };
}

export type BoardParts = ReturnType<typeof useBoardParts>;
