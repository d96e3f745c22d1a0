"use client";
import type { Card } from "@/core/board/card";
import type { LaneCut } from "@/core/board/lane";
import type { LookHandle } from "@/ui/view/use-look";
import type { useBoard } from "./use-board";
import { useBoardKeys } from "./use-board-keys";
import type { BoardParts } from "./use-board-parts";
import type { ColumnMoves } from "./use-columns";
import type { CardKeys } from "./use-card-acts";
import { useHand } from "./use-hand";
import { useLaneDrops } from "./use-lane-drops";
import type { Moves } from "./use-moves";
import { useTargets } from "./use-targets";

/** What keys do that is not about moving cards. */
interface On extends CardKeys {
  open: (card: Card) => void;
  choose: (card: Card, run: boolean) => void;
  addBelow: (card: Card) => void;
  filter: () => void;
  help: () => void;
  make: () => void;
  backlog: () => void;
  walk: (() => void) | undefined;
}

/** Cards in hand, by the pointer or by keys: where they can be put, and what putting them does. */
export function useHands({
  handle,
  board: { view, moving },
  parts,
  cut,
  moves,
  goes,
  on,
}: {
  handle: LookHandle;
  board: ReturnType<typeof useBoard>;
  parts: BoardParts;
  cut: LaneCut;
  moves: Moves;
  goes: ColumnMoves;
  on: On;
}) {
  const { columns, laneList, byId } = parts;
  const lands = useLaneDrops({ handle, cut, goes, send: moves.send, onRefused: moves.refuse });
  const hand = useHand({ view, parts, moves, goes, enter: lands.enter });
  const keys = useBoardKeys({
    columns,
    laneList,
    byId,
    mayMove: view.rights.move,
    asShown: (card) => moving.get(card.id)?.shown ?? card,
    stands: goes.stands,
    canEnter: goes.canEnter,
    enter: goes.enter,
    enterLane: (card, lane, column) => void lands.enter(card, lane, column),
    moveToBacklog: hand.moveToBacklog,
    openItem: on.open,
    choose: on.choose,
    onCard: on,
    addBelow: on.addBelow,
    markReady: moves.markReady,
    onFilter: on.filter,
    onShowAll: handle.showAll,
    onHelp: on.help,
    onNew: on.make,
    onBacklog: on.backlog,
    onWalk: on.walk,
  });
  const lifted = byId.get(hand.inHand ?? keys.picked?.cardId ?? "");
  const { dropInto } = lands;
  const over = keys.picked;
  const targets = useTargets({ columns, laneList, lifted, over, goes, dropInto });
  return { hand, keys, lifted, targets };
}
