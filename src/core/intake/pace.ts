import { ascending, quantile } from "@/core/flow/quantile";

/** Longer than this nobody judged: they were away. */
export const LONGEST_JUDGING_MS = 15 * 60_000;
/** Fewer measured verdicts say nothing of a pace. */
export const FEWEST_MEASURED = 5;

/**
 * How long the queue takes at the measured pace: the median time of the latest verdicts, times the
 * reports that wait.
 * @param took milliseconds that each of the latest verdicts took
 * @returns milliseconds; null where too few were measured
 */
export function workLeft(took: readonly number[], waiting: number): number | null {
  const measured = took.filter((ms) => ms > 0 && ms <= LONGEST_JUDGING_MS);
  return measured.length < FEWEST_MEASURED ? null : quantile(ascending(measured), 0.5)! * waiting;
}
