"use client";
import { useEffect, useRef } from "react";
import { takesKeys } from "./takes-keys";

/** The keys of the whole screen, wherever the focus is but in a field. */
export function useScreenKeys(acts: Readonly<Record<string, (() => void) | undefined>>): void {
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
