"use client";
import {
  useState,
  useSyncExternalStore,
  type KeyboardEvent,
  type PointerEvent,
  type ReactNode,
} from "react";

const LEAST = 90;
const STEP = 24;

const kept = (storedAs: string): number | null => {
  try {
    return Number(localStorage.getItem(storedAs)) || null;
  } catch {
    return null;
  }
};

/**
 * The lower part of a column that is divided by hand, or by the arrow keys; what is above it takes
 * the rest. How high it was is remembered on this machine.
 */
export function Divided({
  label,
  storedAs,
  first,
  children,
}: {
  /** What the line divides. */
  label: string;
  storedAs: string;
  /** How high it begins, in pixels. */
  first: number;
  children: ReactNode;
}) {
  const remembered = useSyncExternalStore(
    () => () => undefined,
    () => kept(storedAs) ?? first,
    () => first,
  );
  const [byHand, setByHand] = useState<number | null>(null);
  const height = byHand ?? remembered;
  const put = (next: number, most: number) => {
    const fitting = Math.round(Math.max(LEAST, Math.min(next, most)));
    setByHand(fitting);
    try {
      localStorage.setItem(storedAs, String(fitting));
    } catch {
      // Not remembered, then.
    }
  };
  const mostBeside = (line: Element) => (line.parentElement?.clientHeight ?? Infinity) - 2 * LEAST;
  const drag = (event: PointerEvent<HTMLDivElement>) => {
    const line = event.currentTarget;
    const [from, was] = [event.clientY, height];
    line.setPointerCapture(event.pointerId);
    const move = (e: globalThis.PointerEvent) => put(was + from - e.clientY, mostBeside(line));
    line.addEventListener("pointermove", move);
    line.addEventListener(
      "lostpointercapture",
      () => line.removeEventListener("pointermove", move),
      {
        once: true,
      },
    );
  };
  const onKeyDown = (event: KeyboardEvent<HTMLDivElement>) => {
    const by = { ArrowUp: STEP, ArrowDown: -STEP }[event.key];
    if (!by) return;
    event.preventDefault();
    put(height + by, mostBeside(event.currentTarget));
  };
  return (
    <>
      <div
        role="separator"
        aria-orientation="horizontal"
        aria-label={label}
        aria-valuenow={height}
        aria-valuemin={LEAST}
        tabIndex={0}
        onPointerDown={drag}
        onKeyDown={onKeyDown}
        className="h-[7px] shrink-0 cursor-row-resize touch-none border-t border-line-strong bg-well hover:bg-accent-soft focus-visible:bg-accent"
      />
      <div className="flex min-h-0 shrink-0 flex-col" style={{ height }}>
        {children}
      </div>
    </>
  );
}
