"use client";
import { createContext, useCallback, useContext, useMemo, useState } from "react";
import type { Card } from "@/core/board/card";
import { itemContract } from "@/core/item/contract";
import { tellProblem } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import { ask } from "@/ui/kit/request";
import { usePins } from "@/ui/item/use-pins";
import type { InPlace } from "./card-fields";

/** What is done at a card: with its fields and moves, or adding to it. */
export type AtCard =
  { kind: "actions"; cardId: string; field: InPlace | null } | { kind: "add"; cardId: string };

/** What presses inside of a card do. */
export interface CardHands {
  /** Opens what changes a card, at one of its fields; null: at its moves. */
  change: (card: Card, field: InPlace | null) => void;
  /** Opens what stands under a card as a list on it, or closes that. */
  turnChildren: (card: Card) => void;
  /** Lists all that is under a large piece. */
  openBelow: (card: Card) => void;
}

const Hands = createContext<CardHands | null>(null);
export const CardHandsProvider = Hands.Provider;

/** Null where a card is only a picture of one. */
export const useCardHands = (): CardHands | null => useContext(Hands);

/** What keys do to the card that has the focus. */
export interface CardKeys {
  openActions: (card: Card) => void;
  change: (card: Card) => void;
  addTo: (card: Card) => void;
  listChildren: (card: Card) => void;
  pin: (card: Card) => void;
}

/**
 * What is open at the cards of a board.
 * @param mayEdit whether this person may change items here
 */
export function useCardActs(mayEdit: boolean) {
  const { turn: pin } = usePins();
  const [at, setAt] = useState<AtCard | null>(null);
  const [withChildren, setWithChildren] = useState<ReadonlySet<string>>(new Set());
  const change = useCallback(
    ({ id }: Card, field: InPlace | null) => setAt({ kind: "actions", cardId: id, field }),
    [],
  );
  const add = useCallback(({ id }: Card) => setAt({ kind: "add", cardId: id }), []);
  const turnChildren = useCallback(
    ({ id }: Card) =>
      setWithChildren((open) => {
        const next = new Set(open);
        if (!next.delete(id)) next.add(id);
        return next;
      }),
    [],
  );
  const { openBehind } = usePanel();
  const openBelow = useCallback(
    async ({ key, title }: Card) => {
      try {
        const { ids } = await ask(itemContract.below, { params: { key } });
        openBehind({ title: `Below ${key} ${title}`, ids });
      } catch (error) {
        tellProblem(error);
      }
    },
    [openBehind],
  );
  const hands = useMemo<CardHands>(
    () => ({ change, turnChildren, openBelow: (card) => void openBelow(card) }),
    [change, turnChildren, openBelow],
  );
  const keys: CardKeys = {
    openActions: (card) => change(card, null),
    change: (card) => mayEdit && change(card, "title"),
    addTo: add,
    listChildren: turnChildren,
    pin,
  };
  return { at, leave: () => setAt(null), add, withChildren, hands, keys };
}

export type CardActs = ReturnType<typeof useCardActs>;
