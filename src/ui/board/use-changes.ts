"use client";
import { useCallback, useEffect, useRef } from "react";
import type { BoardChanges, BoardView } from "@/core/board/board-view";
import { standsAround } from "@/core/board/around";
import type { Card } from "@/core/board/card";
import { boardContract } from "@/core/board/contract";
import { MOST_CHANGES } from "@/core/board/request";
import type { AskedOf } from "@/core/contract/contract";
import { ask } from "@/ui/kit/request";
import { withChanges, type Heard } from "./with-card";

/** Several changes in a moment are asked after together. */
const SETTLE_MS = 800;
/** When it is asked again after the server could not be reached. */
const AGAIN_MS = 5_000;

/** Items that only the server can tell something of, until it is asked. */
interface Open {
  ids: Set<string>;
  finished: boolean;
}

const openOf = (ids: Iterable<string> = []): Open => ({ ids: new Set(ids), finished: false });

/**
 * Asks after items of which something was heard, as far as the card alone does not tell what became
 * of them on the board: whether it shows them, what stands around them, how much has finished.
 */
export function useChanges(
  { params, query }: AskedOf<typeof boardContract.read>,
  change: (next: (board: BoardView) => BoardView) => void,
  heard: ReadonlyMap<string, Heard>,
) {
  const open = useRef(openOf());
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  useEffect(() => () => void (timer.current && clearTimeout(timer.current)), []);

  const latest = useRef<() => Promise<void>>(null);
  const wait = useCallback((ms: number) => {
    if (timer.current) clearTimeout(timer.current);
    timer.current = setTimeout(() => void latest.current?.(), ms);
  }, []);

  const askNow = useCallback(async () => {
    const { ids: all, finished } = open.current;
    const ids = [...all].slice(0, MOST_CHANGES);
    open.current = openOf([...all].slice(MOST_CHANGES));
    if (open.current.ids.size > 0) wait(SETTLE_MS);
    const askedAt = Date.now();
    const body = { board: query!.board!, ids, finished, sum: query?.sum ?? null };
    let told: BoardChanges;
    try {
      told = await ask(boardContract.changes, { params, body });
    } catch {
      // Out of reach: asked after in a while, or with whatever is heard before that.
      for (const id of ids) open.current.ids.add(id);
      open.current.finished ||= finished;
      return wait(AGAIN_MS);
    }
    // What changed here meanwhile is newer than the answer.
    const since = [...heard].filter(([, { at }]) => at >= askedAt).map(([id]) => id);
    change((board) => withChanges(board, ids, told, new Set(since)));
  }, [params, query, change, heard, wait]);
  useEffect(() => {
    latest.current = askNow;
    // What is out of reach is not asked after for ever by a board that nobody looks at any more.
    return () => void (latest.current = null);
  });

  /** Notes what of a changed item only the server knows. */
  const hear = useCallback(
    (board: BoardView, known: Card | undefined, card: Card, around: boolean) => {
      const { ids } = open.current;
      const before = ids.size;
      // Whether it is in the scope of the board only the server can tell.
      if (board.board.scoped || (around && known)) ids.add(card.id);
      for (const id of standsAround(board.around, card.id)) ids.add(id);
      for (const parentId of [known?.parentId, card.parentId])
        if (parentId && (board.around[parentId] || hasCard(board, parentId))) ids.add(parentId);
      if (!known && !board.finishedWhole) {
        ids.add(card.id);
        open.current.finished = true;
      }
      if (ids.size > before) wait(SETTLE_MS);
    },
    [wait],
  );
  const countAgain = useCallback(() => {
    open.current.finished = true;
    wait(SETTLE_MS);
  }, [wait]);
  return { hear, countAgain };
}

const hasCard = ({ cards }: BoardView, id: string): boolean => cards.some((c) => c.id === id);
