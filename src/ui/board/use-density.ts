"use client";
import { useSyncExternalStore } from "react";
import { DENSITIES, type Density } from "@/core/board/card-look";

const STORED_AS = "card-density";
const listeners = new Set<() => void>();

const subscribe = (tell: () => void) => {
  listeners.add(tell);
  return () => void listeners.delete(tell);
};

function chosen(): Density | null {
  try {
    const stored = localStorage.getItem(STORED_AS);
    return DENSITIES.find((density) => density === stored) ?? null;
  } catch {
    return null;
  }
}

/** How large cards are on this machine, whatever views say; null: as they say. */
export const useOwnDensity = (): Density | null =>
  useSyncExternalStore(subscribe, chosen, () => null);

export function setOwnDensity(density: Density | null): void {
  try {
    if (density === null) localStorage.removeItem(STORED_AS);
    else localStorage.setItem(STORED_AS, density);
  } catch {
    // Not remembered, then.
  }
  for (const tell of listeners) tell();
}

/** How large cards are: as this person wants it on this machine, else as the view says. */
export const useDensity = (ofView: Density): Density => useOwnDensity() ?? ofView;
