import { counted } from "@/core/formats/counted";
import type { StepResult } from "./step-result";

/** What a run, or a case in it, came to. */
export const VERDICTS = ["passed", "failed", "blocked"] as const;
export type Verdict = (typeof VERDICTS)[number];

/**
 * What some steps came to: failed where one failed, blocked where one could not be tried, passed where
 * all passed. Null where some were not tried and nothing else is known.
 * @param results in the order of the steps; null for one that was not tried
 */
export function verdictOf(results: readonly (StepResult | null)[]): Verdict | null {
  if (results.includes("failed")) return "failed";
  if (results.includes("blocked")) return "blocked";
  return results.length > 0 && results.every((one) => one === "passed") ? "passed" : null;
}

/** What a run came to, by the verdicts of its cases. */
export const runVerdict = (cases: readonly (Verdict | null)[]): Verdict | null => verdictOf(cases);

/** How far a run has come. */
export interface RunProgress {
  passed: number;
  failed: number;
  blocked: number;
  left: number;
  of: number;
}

/** How far a run has come. @param results of all its steps; null for one that was not tried */
export function progressOf(results: readonly (StepResult | null)[]): RunProgress {
  const count = (which: StepResult | null) => results.filter((one) => one === which).length;
  return {
    ...{ passed: count("passed"), failed: count("failed"), blocked: count("blocked") },
    ...{ left: count(null), of: results.length },
  };
}

/** "3 passed, 1 failed, 2 left" */
export const progressWords = ({ passed, failed, blocked, left }: RunProgress): string =>
  [
    passed > 0 && `${passed} passed`,
    failed > 0 && `${failed} failed`,
    blocked > 0 && `${counted(blocked, "could not be tried", "could not be tried")}`,
    left > 0 && `${left} left`,
  ]
    .filter((part) => part !== false)
    .join(", ");

export const VERDICT_WORDS: Record<Verdict, string> = {
  passed: "passed",
  failed: "failed",
  blocked: "could not be tried",
};
