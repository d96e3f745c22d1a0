"use client";
import {
  useState,
  useSyncExternalStore,
  type CSSProperties,
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

/** Where the part stands whose size is chosen; which keys make it larger; how it is measured. */
const PLACES = {
  below: {
    line: "horizontal",
    larger: "ArrowUp",
    smaller: "ArrowDown",
    look: "h-[7px] cursor-row-resize border-t",
    at: (event: { clientX: number; clientY: number }) => -event.clientY,
    room: (column: Element) => column.clientHeight,
    size: (pixels: number): CSSProperties => ({ height: pixels }),
  },
  left: {
    line: "vertical",
    larger: "ArrowRight",
    smaller: "ArrowLeft",
    look: "w-[5px] cursor-col-resize border-l",
    at: (event: { clientX: number; clientY: number }) => event.clientX,
    room: (row: Element) => row.clientWidth,
    size: (pixels: number): CSSProperties => ({ width: pixels }),
  },
} as const;

/**
 * The lower or the left part of what is divided by hand, or by the arrow keys; what is beside it
 * takes the rest. How large it was is remembered on this machine.
 */
export function Divided({
  label,
  part = "below",
  storedAs,
  first,
  children,
}: {
  /** What the line divides. */
  label: string;
  part?: keyof typeof PLACES;
  storedAs: string;
  /** How large it begins, in pixels. */
  first: number;
  children: ReactNode;
}) {
  const place = PLACES[part];
  const remembered = useSyncExternalStore(
    () => () => undefined,
    () => kept(storedAs) ?? first,
    () => first,
  );
  const [byHand, setByHand] = useState<number | null>(null);
  const size = byHand ?? remembered;
  const put = (next: number, line: Element) => {
    const room = line.parentElement ? place.room(line.parentElement) : Infinity;
    const fitting = Math.round(Math.max(LEAST, Math.min(next, room - 2 * LEAST)));
    setByHand(fitting);
    try {
      localStorage.setItem(storedAs, String(fitting));
    } catch {
      // Not remembered, then.
    }
  };
  const drag = (event: PointerEvent<HTMLDivElement>) => {
    const line = event.currentTarget;
    const from = size - place.at(event);
    line.setPointerCapture(event.pointerId);
    const move = (e: globalThis.PointerEvent) => put(from + place.at(e), line);
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
    const by = { [place.larger]: STEP, [place.smaller]: -STEP }[event.key];
    if (!by) return;
    event.preventDefault();
    put(size + by, event.currentTarget);
  };
  const line = (
    <div
      role="separator"
      aria-orientation={place.line}
      aria-label={label}
      aria-valuenow={size}
      aria-valuemin={LEAST}
      tabIndex={0}
      onPointerDown={drag}
      onKeyDown={onKeyDown}
      className={`shrink-0 touch-none border-line-strong bg-well hover:bg-accent-soft focus-visible:bg-accent ${place.look}`}
    />
  );
  const divided = (
    <div className="flex min-h-0 shrink-0 flex-col" style={place.size(size)}>
      {children}
    </div>
  );
  return part === "below" ? (
    <>
      {line}
      {divided}
    </>
  ) : (
    <>
      {divided}
      {line}
    </>
  );
}
