"use client";
import { createContext, useContext, useEffect, useState } from "react";
import { useScreenKeys } from "@/ui/kit/use-screen-keys";

/** How large a board is drawn that stands alone: for reading from afar. */
const SIZES = [1, 1.25, 1.5, 1.75, 2] as const;
const STORED_AS = "alone-size";

const remembered = (): number => {
  try {
    const stored = Number(localStorage.getItem(STORED_AS));
    return (SIZES as readonly number[]).includes(stored) ? stored : SIZES[0];
  } catch {
    return SIZES[0];
  }
};

export interface Alone {
  on: boolean;
  /** 1 as usual. */
  size: number;
  turn: () => void;
  /** One size up or down; null where there is none. */
  larger: (() => void) | null;
  smaller: (() => void) | null;
}

/** Takes the whole screen, or gives it back; a browser that does not allow it shows the page alone. */
const takeScreen = (on: boolean) =>
  (on ? document.documentElement.requestFullscreen?.() : document.exitFullscreen?.())?.catch(
    () => undefined,
  );

/** A board that stands alone: nothing around it, on the whole screen, in a size to be read from afar. */
export function useAlone(): Alone {
  const [on, setOn] = useState(false);
  const [size, setSize] = useState<number>(SIZES[0]);
  const put = (next: boolean) => {
    setOn(next);
    if (next) setSize(remembered());
    if (next || document.fullscreenElement) void takeScreen(next);
  };
  useEffect(() => {
    const root = document.documentElement;
    root.toggleAttribute("data-alone", on);
    // Esc leaves the whole screen without asking the page.
    const left = () => document.fullscreenElement === null && setOn(false);
    document.addEventListener("fullscreenchange", left);
    return () => {
      root.removeAttribute("data-alone");
      document.removeEventListener("fullscreenchange", left);
    };
  }, [on]);
  const at = (SIZES as readonly number[]).indexOf(size);
  const to = (next: number | undefined) =>
    next === undefined
      ? null
      : () => {
          setSize(next);
          try {
            localStorage.setItem(STORED_AS, String(next));
          } catch {
            // Not remembered, then.
          }
        };
  const larger = on ? to(SIZES[at + 1]) : null;
  const smaller = on ? to(SIZES[at - 1]) : null;
  useScreenKeys(
    {
      v: () => put(!on),
      Escape: on ? () => document.querySelector("main + aside") ?? put(false) : undefined,
      "+": larger ?? undefined,
      "-": smaller ?? undefined,
    },
    { part: "alone", words: { v: "The board alone on the screen" } },
  );
  return { on, size: on ? size : 1, turn: () => put(!on), larger, smaller };
}

/** Whether a board stands alone; null where nothing can. */
export const AloneContext = createContext<Alone | null>(null);
export const useIsAlone = (): Alone | null => useContext(AloneContext);
