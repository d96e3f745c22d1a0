"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import type { Card } from "@/core/board/card";
import { MINUTE } from "@/core/calendar/instant";
import { useLive } from "@/ui/kit/use-live";
import { hearMeanwhile, type OnTheWay } from "./use-moves";
import { caughtUp, withCard, withFinished, type Heard } from "./with-card";
import type { BoardView } from "@/core/board/board-view";
import { boardContract } from "@/core/board/contract";
import { queryOf, ask, keyOf } from "@/ui/kit/request";

/** How long a card that somebody else changed stays marked. */
const CHANGED_MS = 1_000;
const boardAsked = (view: BoardView) => ({
  params: { key: view.project.key },
  query: { board: view.board.id },
});

/** Under which a board is kept on the page. */
export const boardKey = (view: BoardView) => queryOf(boardContract.read, boardAsked(view)).queryKey;

/** Several changes in a moment are one look at the server. */
const SETTLE_MS = 800;

/**
 * The board's data, kept in step with the server: changed cards are put in, a changed design is
 * read anew.
 */
export function useBoard(initial: BoardView) {
  const client = useQueryClient();
  const asked = boardAsked(initial);
  const key = boardKey(initial);
  const [heard] = useState(() => new Map<string, Heard>());
  const { data: view } = useQuery({
    queryKey: key,
    queryFn: async () => {
      const askedAt = Date.now();
      const read = await ask(boardContract.read, asked);
      return caughtUp(read, heard.values(), askedAt);
    },
    initialData: initial,
  });
  const [changed, setChanged] = useState<ReadonlySet<string>>(new Set());
  const [moving] = useState(() => new Map<string, OnTheWay>());

  const putCard = useCallback(
    (card: Card) => {
      heard.set(card.id, { card, at: Date.now() });
      client.setQueryData<BoardView>(
        key,
        (board) => board && { ...board, cards: withCard(board, card) },
      );
    },
    // The key is made of the project, which does not change while the board is open.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [client],
  );
  /** Brings the cards of everything finished that is but a number yet; answers the whole board. */
  const bringFinished = useCallback(
    async () => {
      const known = client.getQueryData<BoardView>(key) ?? initial;
      if (known.finishedRest.length === 0) return known;
      const { cards } = await ask(boardContract.finished, asked);
      const whole = withFinished(client.getQueryData<BoardView>(key) ?? known, cards);
      client.setQueryData<BoardView>(key, whole);
      return whole;
    },
    // As above.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [client],
  );
  const readAgain = useCallback(
    () =>
      void client.invalidateQueries({
        queryKey: keyOf(boardContract.read, { params: { key: initial.project.key } }),
      }),
    [client, initial.project.key],
  );

  const soon = useRef<ReturnType<typeof setTimeout> | null>(null);
  const readSoon = useCallback(() => {
    if (soon.current) clearTimeout(soon.current);
    soon.current = setTimeout(readAgain, SETTLE_MS);
  }, [readAgain]);

  useLive((message) => {
    if (message.kind === "design" || message.kind === "resync") readAgain();
    if (message.kind !== "item") return;
    // Whether it is in the scope of the board only the server can tell.
    if (view.board.scoped) readSoon();
    const { card } = message;
    const known = view.cards.find((c) => c.id === card.id);
    if (known && known.version >= card.version) return;
    // It may be one of those finished that are but a number here; only the server knows.
    const countedAlready = !known && view.finishedRest.length > 0;
    if (countedAlready) readSoon();
    if (countedAlready && card.stateKind === "finished") return;
    const way = moving.get(card.id);
    if (way) return hearMeanwhile(way, card);
    putCard(card);
    setChanged((ids) => new Set(ids).add(card.id));
    setTimeout(
      () => setChanged((ids) => new Set([...ids].filter((id) => id !== card.id))),
      CHANGED_MS,
    );
  });

  const setPlace = useCallback(
    (itemId: string, place: { columnId: string; rank: string } | null) =>
      client.setQueryData<BoardView>(key, (board) => {
        if (!board) return board;
        const { [itemId]: _, ...others } = board.board.places;
        return {
          ...board,
          board: { ...board.board, places: place ? { ...others, [itemId]: place } : others },
        };
      }),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [client],
  );
  const now = useNow(view.now);
  return { view, setPlace, now, putCard, changed, moving, bringFinished };
}

/**
 * The time as the server said it, going on by the minute. The first paint shows what the server
 * drew.
 */
function useNow(start: number): number {
  const [passed, setPassed] = useState({ since: start, ms: 0 });
  useEffect(() => {
    const from = Date.now();
    const timer = setInterval(() => setPassed({ since: start, ms: Date.now() - from }), MINUTE);
    return () => clearInterval(timer);
  }, [start]);
  // What passed since an earlier answer of the server is in its next one already.
  return start + (passed.since === start ? passed.ms : 0);
}
