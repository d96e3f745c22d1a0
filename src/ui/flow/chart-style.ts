/**
 * Colours of charts: a set that stays apart for colour-blind eyes, always beside a hatch, a shape
 * or a word.
 */
export const AXIS = { stroke: "var(--ink-soft)", fontSize: 11.5, tickLine: false } as const;
export const GRID = { stroke: "var(--line)", vertical: false } as const;

/** A chart fills its frame. */
export const CHART_SIZE = { width: "100%", height: "100%", minHeight: 240 } as const;

/**
 * Fills of the cumulative flow diagram, from what is live back to what is ready. Waiting states are
 * hatched.
 */
export const BAND_COLOURS = [
  "var(--done)",
  "#7a5195",
  "#0f8b8d",
  "#bc6c25",
  "#3d6fb4",
  "#5b8e3e",
  "#b5546b",
  "#4f7cac",
  "#8a7a2f",
];

/** "23 Nov" for a day number. */
export function dayWords(day: number): string {
  return new Intl.DateTimeFormat("en-GB", {
    timeZone: "UTC",
    day: "numeric",
    month: "short",
  }).format(day * 86_400_000);
}
