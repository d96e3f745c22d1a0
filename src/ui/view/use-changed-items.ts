"use client";
import { useEffect, useRef } from "react";
import { useLive } from "@/ui/kit/use-live";

/** Several changes in a moment are asked after together. */
const TOGETHER_MS = 400;

/**
 * Asks after items of which something was heard, those above them too, as what a parent says may
 * follow from what is under it.
 * @param askAfter some of them; @param all nothing is known of what happened, or it can be anything
 */
export function useChangedItems(
  {
    on,
    ofOthers,
  }: {
    on: boolean;
    /** Whether what is said of an item can change by any other: then all are read again. */
    ofOthers: boolean;
  },
  askAfter: (ids: string[]) => Promise<void>,
  all: () => unknown,
): void {
  const changed = useRef(new Set<string>());
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const latest = useRef(askAfter);
  useEffect(() => {
    latest.current = askAfter;
  });
  useEffect(() => () => void (timer.current && clearTimeout(timer.current)), []);
  const askNow = () => {
    const of = [...changed.current];
    changed.current = new Set();
    if (ofOthers) void all();
    else void latest.current(of);
  };
  useLive((message) => {
    if (!on) return;
    if (message.kind === "resync") return void all();
    if (message.kind !== "item") return;
    for (const id of [message.card.id, message.card.parentId]) if (id) changed.current.add(id);
    if (timer.current) clearTimeout(timer.current);
    timer.current = setTimeout(askNow, TOGETHER_MS);
  });
}
