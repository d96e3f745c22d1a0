import type { Days } from "@/core/calendar/instant";
import { ageWords, type Age } from "@/core/flow/age";
import type { Percentiles } from "@/core/flow/report";

/** Where the marks of a card's age track stand, as shares of its length from 0 to 1. */
export interface AgeTrack {
  dot: number;
  median: number | null;
  p85: number | null;
  /** Past the 85th percentile of finished items: said in words. */
  past85: boolean;
  words: string;
}

/**
 * Whether a small card shows an age. Common practice, no source: once it has been two days in
 * progress, and not before a whole day of it has passed.
 */
export const showsAge = ({ age, elapsed }: Age): boolean => age >= 2 && elapsed >= 1;

/** The scale runs from 0 to the expectation, or to the age where that is longer. */
export function ageTrack(of: Age, expectationDays: Days, { p50, p85 }: Percentiles): AgeTrack {
  const { age } = of;
  const length = Math.max(expectationDays, p85 ?? 0, age, 1);
  const past85 = p85 !== null && age > p85;
  return {
    dot: age / length,
    median: p50 === null ? null : p50 / length,
    p85: p85 === null ? null : p85 / length,
    past85,
    words: past85 ? `${ageWords(of, "short")} · past 85 %` : ageWords(of, "short"),
  };
}
