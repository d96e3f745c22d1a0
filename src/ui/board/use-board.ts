"use client";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useState } from "react";
import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import { MINUTE } from "@/core/calendar/instant";
import { boardContract } from "@/core/board/contract";
import type { FactName } from "@/core/condition/facts";
import { ask, keyOf, queryOf } from "@/ui/kit/request";
import { useLive } from "@/ui/kit/use-live";
import { ofDesign, useReadAgain } from "@/ui/kit/use-read-again";
import { useChanges } from "./use-changes";
import { hearMeanwhile, type OnTheWay } from "./use-moves";
import { caughtUp, withCard, withFinished, type Heard } from "./with-card";

/** How long a card that somebody else changed stays marked. */
const CHANGED_MS = 1_000;

const isOf =
  ({ id }: Card) =>
  (other: Card) =>
    other.id === id;

const boardAsked = (view: BoardView, sum: FactName | null) => ({
  params: { key: view.project.key },
  query: { board: view.board.id, ...(sum === null ? {} : { sum }) },
});

/** Under which a board is kept on the page. */
export const boardKey = (view: BoardView) =>
  queryOf(boardContract.read, boardAsked(view, view.sum)).queryKey;

/**
 * The board's data, kept in step with the server: changed cards are put in, a changed design is
 * read anew.
 * @param sum what is added up
 */
export function useBoard(initial: BoardView, sum: FactName | null) {
  const client = useQueryClient();
  const asked = useMemo(() => boardAsked(initial, sum), [initial, sum]);
  const key = useMemo(() => queryOf(boardContract.read, asked).queryKey, [asked]);
  const [heard] = useState(() => new Map<string, Heard>());
  const change = useCallback(
    (next: (board: BoardView) => BoardView) =>
      client.setQueryData<BoardView>(key, (board) => board && next(board)),
    [client, key],
  );
  const changes = useChanges(asked, change, heard);
  const { data: view = initial } = useQuery({
    queryKey: key,
    queryFn: async () => {
      const askedAt = Date.now();
      const read = await ask(boardContract.read, asked);
      // What the server told of these meanwhile may be newer than this answer, and is not in it.
      for (const { card, at } of heard.values())
        if (at >= askedAt) changes.hear(read, read.cards.find(isOf(card)), card, true);
      return caughtUp(read, heard.values(), askedAt);
    },
    initialData: sum === initial.sum ? initial : undefined,
    placeholderData: keepPreviousData,
  });
  const [changed, setChanged] = useState<ReadonlySet<string>>(new Set());
  const [moving] = useState(() => new Map<string, OnTheWay>());

  const putCard = useCallback(
    (card: Card) => {
      heard.set(card.id, { card, at: Date.now() });
      change((board) => withCard(board, card));
    },
    [change, heard],
  );
  /** Brings the cards of everything finished that is but a number yet; answers the whole board. */
  const bringFinished = useCallback(async () => {
    const known = client.getQueryData<BoardView>(key) ?? initial;
    if (known.finishedWhole) return known;
    const { cards } = await ask(boardContract.finished, asked);
    const whole = withFinished(client.getQueryData<BoardView>(key) ?? known, cards);
    client.setQueryData<BoardView>(key, whole);
    return whole;
  }, [client, key, asked, initial]);
  const readAgain = useCallback(
    () =>
      void client.invalidateQueries({
        queryKey: keyOf(boardContract.read, { params: { key: initial.project.key } }),
      }),
    [client, initial.project.key],
  );

  useReadAgain(ofDesign, readAgain);
  useLive((message) => {
    if (message.kind === "counts") changes.countAgain();
    if (message.kind !== "item") return;
    const { card, around } = message;
    const known = view.cards.find(isOf(card));
    changes.hear(view, known, card, around);
    if (known && known.version >= card.version) return;
    // It may be one of those finished that are but a number here; only the server knows.
    if (!known && !view.finishedWhole && card.stateKind === "finished") return;
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
      change((board) => {
        const { [itemId]: _, ...others } = board.board.places;
        return {
          ...board,
          board: { ...board.board, places: place ? { ...others, [itemId]: place } : others },
        };
      }),
    [change],
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
