import { ascending, quantile } from "@/core/flow/quantile";

/** A figure beside its yardstick from the same run. */
export interface Row {
  what: string;
  measured: number;
  yardstick: number;
  against: string;
  /** How many times the yardstick it may be; at least so many where more is better. */
  reach: number;
  moreIsBetter?: boolean;
  unit?: string;
}

/** Runs some work so many times. @returns how long each took, in milliseconds */
export async function timed(
  times: number,
  work: (i: number) => Promise<unknown>,
): Promise<number[]> {
  const taken: number[] = [];
  for (let i = 0; i < times; i++) {
    const start = performance.now();
    await work(i);
    taken.push(performance.now() - start);
  }
  return taken;
}

export const p95 = (times: number[]) => quantile(ascending(times), 0.95)!;
export const median = (times: number[]) => quantile(ascending(times), 0.5)!;

/** A line of the table in docs/benchmarks.md. */
export function lineOf(row: Row): string {
  const { what, measured, against, yardstick, reach, moreIsBetter, unit = "ms" } = row;
  const ratio = measured / yardstick;
  const reached = moreIsBetter ? ratio >= reach : ratio <= reach;
  const digits = ratio < 0.1 ? 3 : moreIsBetter ? 2 : 1;
  const times = `**${ratio.toFixed(digits)} ×**`;
  const wanted = `${moreIsBetter ? "≥" : "≤"} ${reach} ×`;
  const figure = (n: number) => `${n.toFixed(1)} ${unit}`;
  return `| ${what} | ${figure(measured)} | ${against} | ${figure(yardstick)} | ${times} | ${wanted} | ${reached ? "reached" : "not reached"} |`;
}
