"use client";
import { createContext, useContext, type ReactNode } from "react";
import { FIRST_SCALES, sizeWords, type SizeScale } from "@/core/plan/size-scale";

const Sizes = createContext<SizeScale>(FIRST_SCALES.points);

/** Makes the sizes of a project known to everything that says or asks one. */
export function SizesProvider({ scale, children }: { scale: SizeScale; children: ReactNode }) {
  return <Sizes.Provider value={scale}>{children}</Sizes.Provider>;
}

/** The sizes that the project chooses from. */
export const useSizes = (): SizeScale => useContext(Sizes);

/** A size as the project says it, or a dash where there is none. */
export function Size({ of }: { of: number | null }) {
  const scale = useSizes();
  return <>{of === null ? "–" : sizeWords(of, scale)}</>;
}
