"use client";
import { useMemo } from "react";
import type { BoardView } from "@/core/board/board-view";
import { factsAskedFor } from "@/core/board/card-look";
import { LARGE_LEVEL } from "@/core/item/item-type";
import type { Figures } from "@/core/flow/summary";
import type { LookHandle } from "@/ui/view/use-look";
import { useDensity } from "./use-density";
import type { CardFacts } from "./card-facts";

/** What all cards of a board are drawn with. */
export function useCardFacts(
  { look: { cards }, views: { vocabulary } }: LookHandle,
  view: BoardView,
  summary: Figures,
  now: number,
): CardFacts {
  const density = useDensity(cards.density);
  return useMemo(
    () => ({
      zone: view.project.zone,
      now,
      paces: summary.paces,
      nameOf: new Map(view.people.map((p) => [p.id, p.name])),
      groupName: new Map([...view.teams, ...view.sprints].map(({ id, name }) => [id, name])),
      typeName: new Map(view.types.map((t) => [t.id, t.name])),
      largeTypes: new Set(
        view.types.filter(({ level }) => level >= LARGE_LEVEL).map(({ id }) => id),
      ),
      ownFields: view.ownFields,
      states: new Map(view.workflows.flatMap((w) => w.states.map((s) => [s.id, s]))),
      saysState: view.board.columnsBy !== "state",
      look: cards,
      density,
      shown: new Set(cards.facts),
      asked: factsAskedFor(cards),
      vocabulary,
    }),
    [view, now, summary, cards, density, vocabulary],
  );
}
