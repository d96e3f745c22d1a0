"use client";
import { useMemo } from "react";
import type { BoardView } from "@/core/board/board-view";
import { astrayOf } from "@/core/board/astray";
import type { Card } from "@/core/board/card";
import { cellsOf } from "@/core/board/cells";
import {
  drawnOf,
  idsUnder,
  underParents,
  usualChildren,
  type ChildrenShown,
} from "@/core/board/children";
import { stagesOf, type Column } from "@/core/board/column";
import type { FinishedGroup } from "@/core/board/finished";
import {
  groupsSay,
  laneIdOf,
  lanes,
  NOTHING_TOLD,
  type Lane,
  type LaneCut,
} from "@/core/board/lane";
import { NO_LANES } from "@/core/board/lanes-by";
import { EMPTY_VOCABULARY } from "@/core/condition/vocabulary";
import { bothTallies, tallyOf, tallyOfGroups, type Tally } from "@/core/board/tally";
import type { CardsTold } from "@/core/item/list/card-facts";
import { amountOf } from "@/core/item/amount";
import type { StateId } from "@/core/workflow/state";
import { compareRanks } from "@/core/item/rank";
import { unseenIn, useBoardLimits } from "./use-board-limits";
import { inBay } from "./with-card";

export type Stands = (card: Card, column: Column) => boolean;

/** On a free board cards stand by their place in it, everywhere else by their rank. */
function sorted(cards: Card[], { columnsBy, places }: BoardView["board"]): Card[] {
  return columnsBy === "free"
    ? [...cards].sort((a, b) => compareRanks(places[a.id].rank, places[b.id].rank))
    : cards;
}

const latestFirst = (a: Card, b: Card) => b.enteredStateAt - a.enteredStateAt;

/** What of a board is shown, and how it is cut into lanes. */
export interface Shown {
  /** The items that the filter lets through; null: all of them. */
  matching: ReadonlySet<string> | null;
  /** Whether that is what an earlier filter let through, until the new one is asked. */
  waiting: boolean;
  /** How it is cut into lanes. */
  cut: LaneCut;
  /** What cards say that they do not have themselves. */
  cardsTold: CardsTold;
  /** Null: as the board usually shows them. */
  children: ChildrenShown | null;
}

const [emptyLane] = lanes<Card>(
  [],
  {
    lanes: NO_LANES,
    vocabulary: EMPTY_VOCABULARY,
    at: { now: 0, zone: "UTC" },
    members: null,
    told: NOTHING_TOLD,
  },
  [{ classOfService: "standard", assigneeId: null }],
);

/** What of a board stands where: its columns, the lanes across them, and what is beside them. */
export function useBoardParts(
  view: BoardView,
  { matching, waiting, cut, children }: Shown,
  stands: Stands,
) {
  const byStages = view.board.columnsBy === "state";
  const columns = useMemo(
    () => (byStages ? stagesOf(view.columns).flatMap((s) => s.columns) : view.columns),
    [view.columns, byStages],
  );
  const columnOf = useMemo(() => {
    const known = new Map<string, Column | null>();
    for (const card of view.cards)
      known.set(card.id, columns.find((column) => stands(card, column)) ?? null);
    return (card: Card) => known.get(card.id) ?? null;
  }, [view.cards, columns, stands]);
  const [onBoard, astray, backlog] = useMemo(() => {
    const outside = view.cards.filter((c) => !inBay(view, c));
    return [
      sorted(
        outside.filter((card) => columnOf(card) !== null),
        view.board,
      ),
      astrayOf(view, byStages ? outside : []),
      view.cards.filter((c) => inBay(view, c)),
    ];
  }, [view, columnOf, byStages]);
  const [shown, backlogShown] = useMemo(() => {
    const isShown = (card: Card) => matching === null || matching.has(card.id);
    return [onBoard.filter(isShown), backlog.filter(isShown)];
  }, [onBoard, backlog, matching]);
  const childrenShown = children ?? usualChildren(view.board.columnsBy);
  const laneList = useMemo(() => {
    const beside = matching === null && groupsSay(cut.lanes) ? view.finished : [];
    const made = lanes(drawnOf(shown, childrenShown), cut, beside);
    // An empty board still shows its places.
    return made.some((l) => !l.expedite) ? made : [...made, emptyLane];
  }, [shown, childrenShown, cut, view.finished, matching]);
  const cells = useMemo(() => {
    const inOrder = (cards: readonly Card[], column: Column) =>
      column.part === "finished"
        ? [...cards].sort(latestFirst)
        : childrenShown === "under their parent"
          ? underParents(cards)
          : cards;
    return cellsOf(laneList, columnOf, inOrder);
  }, [laneList, columnOf, childrenShown]);
  const counts = useCounts(view, onBoard, columns, columnOf);
  const limits = useBoardLimits(view, { onBoard, columns, columnOf, counts: counts.counts });
  const tallies = useTallies(view, { shown, laneList, cut, columns, columnOf, matching });
  const byId = useMemo(() => new Map(view.cards.map((c) => [c.id, c])), [view.cards]);
  const drawnUnder = useMemo(() => countUnder(onBoard), [onBoard]);
  const under = useMemo(
    () =>
      new Set(
        childrenShown === "under their parent"
          ? [...cells.values()].flatMap((lane) => [...lane.values()].flatMap(idsUnder))
          : [],
      ),
    [cells, childrenShown],
  );
  return {
    byStages,
    waiting,
    columns,
    columnOf,
    onBoard,
    astray,
    backlog,
    backlogShown,
    shown,
    narrowed: matching !== null,
    childrenShown,
    laneList,
    cells,
    ...counts,
    ...limits,
    ...tallies,
    byId,
    drawnUnder,
    /** Cards that stand below their parent. */
    under,
  };
}

/** How many of the cards of a board stand under each item. */
function countUnder(cards: readonly Card[]): ReadonlyMap<string, number> {
  const counts = new Map<string, number>();
  for (const { parentId } of cards)
    if (parentId !== null) counts.set(parentId, (counts.get(parentId) ?? 0) + 1);
  return counts;
}

export type BoardParts = ReturnType<typeof useBoardParts>;
type ColumnOf = (card: Card) => Column | null;

const isFinished = (card: Card) => card.stateKind === "finished";

/**
 * How many items columns hold: those drawn there, finished ones that may be but a number, and those
 * unseen. And how many are ready.
 */
function useCounts(
  view: BoardView,
  onBoard: readonly Card[],
  columns: readonly Column[],
  columnOf: ColumnOf,
) {
  return useMemo(() => {
    const open = onBoard.filter((card) => view.board.columnsBy !== "state" || !isFinished(card));
    const inColumn = new Map<string, number>();
    const ready: Record<string, number> = {};
    for (const card of open) {
      const { id } = columnOf(card)!;
      inColumn.set(id, (inColumn.get(id) ?? 0) + 1);
      if (card.readySince !== null) ready[id] = (ready[id] ?? 0) + 1;
    }
    const beside = (stateIds: readonly StateId[]) =>
      tallyOfGroups(view.finished, stateIds).items + unseenIn(view, { stateIds: [...stateIds] });
    const counts = columns.map(({ id, stateIds }) => [
      id,
      (inColumn.get(id) ?? 0) + beside(stateIds),
    ]);
    return { ready, counts: Object.fromEntries(counts) as Record<string, number> };
  }, [view, onBoard, columns, columnOf]);
}

interface Tallied {
  shown: readonly Card[];
  laneList: readonly Lane<Card>[];
  cut: LaneCut;
  columns: readonly Column[];
  columnOf: ColumnOf;
  matching: ReadonlySet<string> | null;
}

/** What is shown, counted and added up: in each column and in each lane. */
function useTallies(view: BoardView, of: Tallied) {
  const { shown, laneList, cut, columns, columnOf, matching } = of;
  const { sum, ownFields, finished, board } = view;
  return useMemo(() => {
    const amount = (card: Card) => amountOf(sum, card, ownFields);
    // Of what a filter lets through all cards are here.
    const grouped = board.columnsBy === "state" && matching === null && groupsSay(cut.lanes);
    const cards = grouped ? shown.filter((card) => !isFinished(card)) : shown;
    const groups = grouped ? finished : [];
    const laneId = laneIdOf(cut);
    const tally = (some: readonly Card[], those: readonly FinishedGroup[], over: Column[]) =>
      over.reduce<Tally>(
        (both, { stateIds }) => bothTallies(both, tallyOfGroups(those, stateIds)),
        tallyOf(some, amount),
      );
    const byColumn = (column: Column) =>
      tally(
        cards.filter((card) => columnOf(card) === column),
        groups,
        [column],
      );
    const byLane = ({ id }: Lane<Card>) =>
      tally(
        cards.filter((card) => laneId(card) === id),
        groups.filter((group) => laneId(group) === id),
        [...columns],
      );
    return {
      columnTallies: new Map(columns.map((column) => [column.id, byColumn(column)])),
      laneTallies: new Map(laneList.map((lane) => [lane.id, byLane(lane)])),
      /** The groups of finished items that travel in a lane; null: all cards are here. */
      finishedIn: (lane: Lane<Card>): FinishedGroup[] | null =>
        grouped ? groups.filter((group) => laneId(group) === lane.id) : null,
    };
  }, [shown, laneList, cut, columns, columnOf, matching, sum, ownFields, finished, board]);
}
