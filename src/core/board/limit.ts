import type { StateLimit } from "@/core/workflow/state";
import { countingSentence, PLAIN_COUNTING, type LimitCounting } from "./limit-counting";

/** The arithmetic of column limits: how full a column is, and whether a move may change that. */

export interface ColumnLimit {
  min: number | null;
  max: number | null;
  /**
   * Firm: a move that would break it is refused unless a lead gives a reason. Otherwise it is
   * advice, and shown.
   */
  minFirm: boolean;
  maxFirm: boolean;
}

export const NO_LIMIT: ColumnLimit = { min: null, max: null, minFirm: false, maxFirm: false };

/** The bounds of a limit, without the rest of it. */
export const boundsOf = ({ min, max, minFirm, maxFirm }: ColumnLimit): ColumnLimit => ({
  min,
  max,
  minFirm,
  maxFirm,
});

/** A state's limit as every limit is written. */
export const limitOfState = (limit: StateLimit | null): ColumnLimit & LimitCounting => ({
  ...PLAIN_COUNTING,
  ...(limit ? withoutFirm(limit) : NO_LIMIT),
});

const withoutFirm = ({ firm, ...limit }: StateLimit) => ({ ...limit, maxFirm: firm });

/** A limit as a state has it; none where it asks for nothing. */
export function stateLimitOf(limit: ColumnLimit & Partial<LimitCounting>): StateLimit | null {
  const { min, max, minFirm, maxFirm, unit, level, fixedDatePasses } = limit;
  if (min === null && max === null) return null;
  return {
    max,
    firm: max !== null && maxFirm,
    min,
    minFirm: min !== null && minFirm,
    ...(unit === "size" && { unit }),
    ...(typeof level === "number" && { level }),
    ...(fixedDatePasses && { fixedDatePasses }),
  };
}

/** A limit in a sentence: "at least 2, at most 5, firm", "at most 8 in size; fixed dates may pass". */
export function limitSentence(limit: ColumnLimit & Partial<LimitCounting>): string {
  if (!isLimited(limit)) return "none";
  const { min, max, minFirm, maxFirm } = limit;
  const bound = (words: string, n: number, firm: boolean) =>
    `${words} ${n}${limit.unit === "size" ? " in size" : ""}${firm ? ", firm" : ""}`;
  return [
    ...(min === null ? [] : [bound("at least", min, minFirm)]),
    ...(max === null ? [] : [bound("at most", max, maxFirm)]),
    ...countingSentence(limit),
  ].join("; ");
}

/** Whether a limit asks for anything. */
export const isLimited = ({ min, max }: ColumnLimit): boolean => min !== null || max !== null;

/** Two limits of one thing as one: what either refuses is refused, what either advises is advised. */
export function stricterLimit(a: ColumnLimit, b: ColumnLimit): ColumnLimit {
  const least = (one: number | null, other: number | null) =>
    one === null ? other : other === null ? one : Math.min(one, other);
  const max = least(a.max, b.max);
  const most = Math.max(a.min ?? 0, b.min ?? 0);
  const min = a.min === null && b.min === null ? null : least(most, max);
  return {
    min,
    max,
    minFirm: min !== null && (a.minFirm || b.minFirm),
    maxFirm: max !== null && (a.maxFirm || b.maxFirm),
  };
}

export type LimitState =
  | { kind: "none"; count: number }
  | { kind: "within"; count: number; free: number | null }
  | { kind: "full"; count: number; max: number }
  | { kind: "over"; count: number; max: number; by: number }
  | { kind: "under"; count: number; min: number; by: number };

/**
 * Where a count stands against a limit. Over wins against under.
 * Common practice, no source: a column with limits 5 to 15 that holds 17 is 2 over.
 */
export function limitState(count: number, limit: ColumnLimit): LimitState {
  if (limit.max !== null && count > limit.max)
    return { kind: "over", count, max: limit.max, by: count - limit.max };
  if (limit.min !== null && count < limit.min)
    return { kind: "under", count, min: limit.min, by: limit.min - count };
  if (limit.max !== null && count === limit.max) return { kind: "full", count, max: limit.max };
  if (limit.max === null && limit.min === null) return { kind: "none", count };
  return { kind: "within", count, free: limit.max === null ? null : limit.max - count };
}

/** A number of items, or a sum of sizes, as people read it. */
const amount = (n: number): string => n.toLocaleString("en", { maximumFractionDigits: 1 });

/** The words beside the slots: "4 of 5", "2 over", "pull 1 more". */
export function limitWords(state: LimitState, limit: ColumnLimit): string {
  if (state.kind === "over") return `${amount(state.by)} over`;
  if (state.kind === "under") return `pull ${amount(state.by)} more`;
  return limit.max === null ? amount(state.count) : `${amount(state.count)} of ${limit.max}`;
}

/** The marks to draw for the places of a column; above 12 places a bar replaces them. */
export interface Slots {
  filled: number;
  /** Of those filled: with what is ready for its next step. */
  low: number;
  empty: number;
  beyond: number;
  asBar: boolean;
}

/**
 * A limit as places to be drawn: those that are filled, those that are free, and what stands beyond
 * the maximum. Without a maximum there are as many places as items, or as the minimum asks for.
 * @param ready how many of the items are ready for their next step
 */
export function slots(count: number, limit: ColumnLimit, ready = 0): Slots {
  const places = limit.max ?? Math.max(limit.min ?? 0, count);
  const filled = Math.min(count, places);
  return {
    filled,
    low: Math.min(ready, filled),
    empty: Math.max(0, places - count),
    beyond: limit.max === null ? 0 : Math.max(0, count - limit.max),
    asBar: Math.max(places, count) > 12,
  };
}

/** A limit that something went beyond. */
export interface LimitBreak {
  /** The limit's id; of what was written before limits were told apart, a column's. */
  columnId: string;
  columnName: string;
  side: "maximum" | "minimum";
  limit: number;
  /** What counts against it once it has happened. */
  wouldHold: number;
  /** Older ones were all firm. */
  firm?: boolean;
  /** Of older ones: items. */
  unit?: "items" | "size";
}
