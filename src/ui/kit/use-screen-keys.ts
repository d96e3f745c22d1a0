"use client";
import { useEffect, useRef } from "react";
import { useOfferedActs } from "./offered-acts";
import { takesKeys } from "./takes-keys";

/** Which of the keys the box offers too, with its words; by a name of the part of the page. */
interface OfferedKeys {
  part: string;
  words: Readonly<Record<string, string>>;
}

const NONE: OfferedKeys = { part: "", words: {} };

/** The keys of the whole screen, wherever the focus is but in a field. */
export function useScreenKeys(
  acts: Readonly<Record<string, (() => void) | undefined>>,
  { part, words }: OfferedKeys = NONE,
): void {
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
  useOfferedActs(
    part,
    Object.entries(words).flatMap(([key, said]) => {
      const act = acts[key];
      return act ? [{ id: `${part}-${key}`, words: said, key, act: () => act() }] : [];
    }),
  );
}
