"use client";
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import { movableParts, movedBy, type Bar, type BarPart, type Planned } from "@/core/timeline/bars";
import type { TimelineItem } from "@/core/timeline/view";

/** So long after the last key what was moved by keys is stored. */
const SETTLED_MS = 900;
/** So many pixels make a press a drag. */
const DRAG_FROM_PX = 3;

interface Moving {
  id: string;
  part: BarPart;
  days: number;
}

/** Moves bars and their ends, with the pointer and with keys. */
export function useBarMoves({
  day,
  today,
  onPlan,
}: {
  /** A day is so many pixels wide. */
  day: number;
  today: number;
  onPlan: (item: TimelineItem, planned: Planned) => void;
}) {
  const [moving, setMoving] = useState<Moving | null>(null);
  const latest = useRef<{ item: TimelineItem; bar: Bar; moving: Moving } | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(timer.current), []);
  const drop = () => {
    clearTimeout(timer.current);
    latest.current = null;
    setMoving(null);
  };
  const settle = () => {
    const held = latest.current;
    drop();
    if (held && held.moving.days !== 0)
      onPlan(held.item, movedBy(held.item, held.bar, { ...held.moving, today }));
  };
  const move = (item: TimelineItem, bar: Bar, next: Moving) => {
    latest.current = { item, bar, moving: next };
    setMoving(next);
  };
  return {
    /** What is planned of an item while a part of its bar is moved; null while none is. */
    plannedOf: (item: TimelineItem, bar: Bar): Planned | null =>
      moving?.id === item.id && moving.days !== 0 ? movedBy(item, bar, { ...moving, today }) : null,
    /** For the element that a part of a bar is held by. */
    heldBy: (item: TimelineItem, bar: Bar, part: BarPart) => ({
      onPointerDown: (event: PointerEvent<HTMLElement>) => {
        if (event.button !== 0 || !movableParts(item).includes(part)) return;
        event.stopPropagation();
        const { currentTarget, pointerId, clientX } = event;
        currentTarget.setPointerCapture(pointerId);
        const onMove = (at: globalThis.PointerEvent) => {
          const pixels = at.clientX - clientX;
          if (latest.current === null && Math.abs(pixels) < DRAG_FROM_PX) return;
          move(item, bar, { id: item.id, part, days: Math.round(pixels / day) });
        };
        const onUp = (at: globalThis.PointerEvent) => {
          currentTarget.removeEventListener("pointermove", onMove);
          currentTarget.removeEventListener("pointerup", onUp);
          currentTarget.removeEventListener("pointercancel", onUp);
          if (at.type === "pointercancel") drop();
          else settle();
        };
        currentTarget.addEventListener("pointermove", onMove);
        currentTarget.addEventListener("pointerup", onUp);
        currentTarget.addEventListener("pointercancel", onUp);
      },
    }),
    /** Arrows move it day by day, with Shift week by week; with Alt its end alone. */
    onKey: (item: TimelineItem, bar: Bar) => (event: KeyboardEvent) => {
      if (event.key === "Escape" && latest.current) {
        event.stopPropagation();
        return drop();
      }
      if (event.key === "Enter" && latest.current) {
        event.preventDefault();
        return settle();
      }
      if (event.key !== "ArrowLeft" && event.key !== "ArrowRight") return;
      const parts = movableParts(item);
      const part: BarPart = event.altKey || !parts.includes("whole") ? "end" : "whole";
      if (!parts.includes(part)) return;
      event.preventDefault();
      const step = (event.key === "ArrowLeft" ? -1 : 1) * (event.shiftKey ? 7 : 1);
      const held = latest.current;
      const same = held?.item.id === item.id && held.moving.part === part;
      if (held && !same) settle();
      move(item, bar, { id: item.id, part, days: (same ? held.moving.days : 0) + step });
      clearTimeout(timer.current);
      timer.current = setTimeout(settle, SETTLED_MS);
    },
    onBlur: settle,
  };
}

export type BarMoves = ReturnType<typeof useBarMoves>;
