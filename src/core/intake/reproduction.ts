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
