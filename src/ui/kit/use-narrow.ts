"use client";
import { useSyncExternalStore } from "react";

const NARROW = "(max-width: 700px)";

function follow(onChange: () => void): () => void {
  const query = window.matchMedia(NARROW);
  query.addEventListener("change", onChange);
  return () => query.removeEventListener("change", onChange);
}

/** Whether the window is as narrow as a telephone; the server takes it to be wide. */
export const useNarrow = (): boolean =>
  useSyncExternalStore(
    follow,
    () => window.matchMedia(NARROW).matches,
    () => false,
  );
