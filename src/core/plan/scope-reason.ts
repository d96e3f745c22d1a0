import { z } from "zod";

/** That something came into a sprint that runs, or went out of it, by somebody's hand. */
export interface ScopeQuestion {
  itemId: string;
  /** Number of the event that did it. */
  seq: number;
  sprintId: string;
  sprintName: string;
  kind: "added" | "taken out";
}

export const LONGEST_REASON = 300;

export const scopeReasonBody = z.object({
  itemId: z.uuid(),
  seq: z.number().int().positive(),
  /** Nothing takes back what was said. */
  words: z.string().trim().max(LONGEST_REASON, `Use at most ${LONGEST_REASON} characters.`),
});
export type ScopeReason = z.output<typeof scopeReasonBody>;

/** The same with the key of the item. */
export interface AskedScope extends ScopeQuestion {
  key: string;
}

/** So many are named. */
const NAMED = 4;

/**
 * What is asked of somebody who changed what a sprint holds while it runs; one reason for all of it.
 * @example "Sprint 21 runs already. Why does TIX-5 come in?"
 */
export function questionWords(asked: readonly AskedScope[]): string {
  const [{ key, kind, sprintName }] = asked;
  if (asked.length === 1)
    return kind === "added"
      ? `${sprintName} runs already. Why does ${key} come in?`
      : `${sprintName} runs. Why does ${key} go out of it?`;
  const keys = asked.slice(0, NAMED).map((one) => one.key);
  const more = asked.length - keys.length;
  const named = `${keys.join(", ")}${more > 0 ? ` and ${more} more` : ""}`;
  const same = asked.every((one) => one.kind === kind && one.sprintName === sprintName);
  if (!same) return `Sprints run that ${named} came into or went out of. Why?`;
  return kind === "added"
    ? `${sprintName} runs already. Why do ${named} come in?`
    : `${sprintName} runs. Why do ${named} go out of it?`;
}
