"use client";
import { useState } from "react";
import type { Card } from "@/core/board/card";

/** The rows of a backlog that somebody has chosen, to do something to all of them. */
export function useBacklogChosen(rows: readonly Card[]) {
  const [ids, setIds] = useState<ReadonlySet<string>>(new Set());
  const [from, setFrom] = useState<string | null>(null);
  // What is no row any more is not chosen any more either.
  const cards = rows.filter(({ id }) => ids.has(id));
  /** @param run with all between it and the one that was turned last */
  const turn = ({ id }: Card, run = false) => {
    const next = new Set(cards.map((card) => card.id));
    const [at, begin] = [id, from].map((one) => rows.findIndex((card) => card.id === one));
    if (run && begin >= 0)
      for (const card of rows.slice(Math.min(at, begin), Math.max(at, begin) + 1))
        next.add(card.id);
    else if (!next.delete(id)) next.add(id);
    setIds(next);
    setFrom(id);
  };
  return {
    cards,
    has: (id: string) => ids.has(id),
    turn,
    drop: () => setIds(new Set()),
  };
}

export type BacklogChosen = ReturnType<typeof useBacklogChosen>;
