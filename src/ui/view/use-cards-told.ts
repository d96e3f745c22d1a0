"use client";
import { asksForCards, cardLookFacts } from "@/core/board/card-look";
import type { CardsTold } from "@/core/item/list/card-facts";
import { listContract } from "@/core/item/list/contract";
import type { AskedLook } from "@/core/view/asked-look";
import { pick } from "@/core/item/pick";
import { ask, queryOf } from "@/ui/kit/request";
import type { LookHandle } from "./use-look";
import { useTold } from "./use-told";

const NOTHING: CardsTold = {};
const ASKED_OF = ["facts", "marks", "more"] as const;

/** What cards say that they do not have themselves: facts of the server's, and marks. */
export function useCardsTold(
  { projectKey, look }: LookHandle,
  asked: AskedLook,
  initial: CardsTold | null,
): CardsTold {
  const params = { key: projectKey };
  const cards = pick(look.cards, ASKED_OF);
  const body = { board: look.board, cards };
  const first = JSON.stringify(cards) === JSON.stringify(pick(asked.look.cards, ASKED_OF));
  const { data } = useTold<CardsTold>({
    query: queryOf(listContract.cards, { params, body }),
    on: asksForCards(look.cards),
    facts: cardLookFacts(look.cards),
    first: first ? initial : null,
    askAfter: (of) => ask(listContract.cards, { params, body: { ...body, of } }),
    merged: (before, told, of) => ({
      ...before,
      ...Object.fromEntries(of.map((id) => [id, told[id] ?? { values: [], mark: null }])),
    }),
  });
  return data ?? NOTHING;
}
