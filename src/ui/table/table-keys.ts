"use client";
import { useEffect, useRef } from "react";
import { takesKeys } from "@/ui/kit/takes-keys";

export const TABLE_KEYS: [string, string][] = [
  ["↑ ↓ ← →", "move between cells"],
  ["Home End", "first and last cell of the row; with Ctrl of the table"],
  ["Page ↑ ↓", "a screen up or down"],
  ["Enter", "open the item, or change the cell"],
  ["F2", "change the cell, the title too"],
  ["Esc", "leave the cell as it was"],
  ["o", "open the item"],
  ["x", "choose the row"],
  ["Shift ↑ ↓", "choose a run of rows"],
  ["Ctrl C", "copy the chosen rows, or the row of the focus"],
  ["← →", "on the head of a group: close and open it"],
  ["/", "narrow what is shown"],
  ["c", "show all again"],
  ["?", "this list"],
];

/** The keys of the whole screen, wherever the focus is but in a field. */
export function useTableScreenKeys(acts: Record<string, () => void>): void {
  const latest = useRef(acts);
  useEffect(() => {
    latest.current = acts;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (takesKeys(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      const act = latest.current[event.key];
      if (!act) return;
      event.preventDefault();
      act();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}
