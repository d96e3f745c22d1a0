import { z } from "zod";

export const REPRODUCTION_RESULTS = ["happened", "happened sometimes", "did not happen"] as const;
/** What came of trying to make a reported problem happen. */
export type ReproductionResult = (typeof REPRODUCTION_RESULTS)[number];

/** One try: by whom it was made is known from who says so. */
export const reproductionSchema = z.object({
  /** Where and with what: "Gannet quay, scanner 2". */
  tried: z.string().trim().min(1, "Say where you tried it.").max(200),
  /** "app 4.12.1" */
  version: z.string().trim().max(80).default(""),
  /** What was done, step by step. */
  steps: z.string().trim().max(2_000).default(""),
  result: z.enum(REPRODUCTION_RESULTS),
  note: z.string().trim().max(2_000).default(""),
});
export type ReproductionTry = z.infer<typeof reproductionSchema>;

export type Reproducible = "not tried" | "reproduced" | "sometimes" | "not reproduced";

/** What several tries amount to: one that happened counts more than any number that did not. */
export function reproducible(results: readonly ReproductionResult[]): Reproducible {
  if (results.length === 0) return "not tried";
  if (results.includes("happened")) return "reproduced";
  return results.includes("happened sometimes") ? "sometimes" : "not reproduced";
}

/**
 * Asks whoever reported it precisely what was different with them, by the last try that failed.
 */
export function differsQuestion(
  tries: readonly Pick<ReproductionTry, "tried" | "version" | "steps" | "result">[],
): string {
  const last = tries.findLast((t) => t.result === "did not happen");
  const how = last
    ? `We tried it: ${last.tried}${last.version ? `, ${last.version}` : ""}.${last.steps ? `\n\nWhat we did:\n${last.steps}` : ""}\n\nIt did not happen.`
    : "We tried it, and it did not happen.";
  return `${how}\n\nWhat was different with you?\n- which device, and which version of the app\n- the day and the time\n- what you did just before, step by step\n- with or without a connection`;
}

/** @param day in words */
export const watchedWords = (day: string): string =>
  `We could not make it happen yet. We watch for it until ${day}; if nothing new comes by then, we end your report. If it happens again, tell us the day, the time and what you saw.`;

export const NOTHING_CAME =
  "We watched for it, and it did not happen again as far as we know, so we end your report here. If it happens again, answer this: your report opens again.";
