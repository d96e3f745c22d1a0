"use client";
import { useMemo } from "react";
import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import { paceOf } from "@/core/flow/pace";
import type { Figures } from "@/core/flow/summary";
import { ageOf } from "@/core/flow/age";
import { countedClock } from "@/core/item/start-finish";
import { walkSections } from "@/core/walk/sections";
import type { WalkView } from "@/core/walk/walk";
import { useBoard } from "@/ui/board/use-board";
import { useFigures } from "@/ui/flow/use-figures";
import { BeginWalk } from "./begin-walk";
import { RunningWalk } from "./running-walk";
import { useWalk } from "./use-walk";

/** Going through a board together; or beginning to, with what became of the walks before. */
export function WalkScreen({
  board,
  walks: first,
  figures: firstFigures,
}: {
  board: BoardView;
  walks: WalkView;
  figures: Figures;
}) {
  const { view, now } = useBoard(board, board.sum);
  const { key, zone } = view.project;
  const { walks, send } = useWalk(key, view.board.id, first);
  const { paces } = useFigures(key, firstFigures);
  const { running, left } = walks;
  const order = running?.order ?? "from the end";
  const age = (card: Card) => ageOf(countedClock(card), zone, now);
  const sections = useMemo(() => {
    const people = new Map(view.people.map(({ id, name }) => [id, name]));
    const cards = new Map(view.cards.map((card) => [card.id, card]));
    return walkSections(order, {
      cards: view.cards,
      columns: view.columns,
      nameOf: (id) => people.get(id) ?? "Somebody who left",
      parentName: (id) => {
        const parent = cards.get(id);
        return parent ? `${parent.key} ${parent.title}` : null;
      },
      ageOf: (card) => ageOf(countedClock(card), zone, now).age,
      left: left.map(({ itemId }) => itemId),
    });
  }, [view, order, left, zone, now]);
  /** Blocked, or older than nearly all that finished: what a walk stops at. */
  const isWrong = (card: Card): boolean =>
    card.openBlockers.length > 0 ||
    age(card).age > (paceOf(paces, card.key).percentiles.p85 ?? Infinity);
  return running ? (
    <RunningWalk
      walk={running}
      view={view}
      sections={sections}
      isWrong={isWrong}
      ageDays={(card) => age(card).age}
      send={send}
    />
  ) : (
    <BeginWalk view={view} walks={walks} sections={sections} send={send} />
  );
}
