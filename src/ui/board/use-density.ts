"use client";
import { DENSITIES, type Density } from "@/core/board/card-look";
import { keptHere } from "@/ui/kit/kept-here";

const kept = keptHere("card-density");

/** How large cards are on this machine, whatever views say; null: as they say. */
export function useOwnDensity(): Density | null {
  const stored = kept.useKept();
  return DENSITIES.find((density) => density === stored) ?? null;
}

export const setOwnDensity = (density: Density | null): void => kept.write(density);

/** How large cards are: as this person wants it on this machine, else as the view says. */
export const useDensity = (ofView: Density): Density => useOwnDensity() ?? ofView;
