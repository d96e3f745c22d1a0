"use client";
import { useState } from "react";

/** The reports that the next verdict is on: one by one, a stretch of the list, or all that is shown. */
export function useMarked(rows: readonly { id: string }[]) {
  const [marked, setMarked] = useState<ReadonlySet<string>>(new Set());
  const [last, setLast] = useState<string | null>(null);
  const mark = (id: string, range = false) => {
    setLast(id);
    const [a, b] = [last, id].map((each) => rows.findIndex((r) => r.id === each));
    if (range && a >= 0 && b >= 0) {
      const between = rows.slice(Math.min(a, b), Math.max(a, b) + 1);
      setMarked((before) => new Set([...before, ...between.map((r) => r.id)]));
      return;
    }
    setMarked(
      (before) => new Set(before.has(id) ? [...before].filter((m) => m !== id) : [...before, id]),
    );
  };
  return {
    marked,
    mark,
    markAll: () => setMarked(new Set(rows.map((r) => r.id))),
    markNone: () => setMarked(new Set()),
  };
}
