import { z } from "zod";
import type { Instant } from "@/core/calendar/instant";

/*
 * What has to be true so that an item is what was wanted: lines that are ticked one by one. Who
 * found one met, and when, stands beside them; a line that is written anew has to be met anew.
 */

export const MOST_CRITERIA = 50;
export const LONGEST_CRITERION = 500;

/** A line of what is wanted. */
export interface Criterion {
  id: string;
  text: string;
}

/** That somebody found a criterion met. */
export interface Met {
  criterionId: string;
  byId: string | null;
  at: Instant;
}

export const criteriaSchema = z
  .array(
    z.object({
      id: z.uuid(),
      text: z
        .string()
        .trim()
        .min(1, "A criterion says something.")
        .max(LONGEST_CRITERION, `Use at most ${LONGEST_CRITERION} characters.`),
    }),
  )
  .max(MOST_CRITERIA, `Use at most ${MOST_CRITERIA} criteria.`)
  .refine(
    (criteria) => new Set(criteria.map(({ id }) => id)).size === criteria.length,
    "A criterion stands there once.",
  );

/** What of what was met still is, once the lines are others: those that say what they said. */
export function metStill(
  met: readonly Met[],
  before: readonly Criterion[],
  after: readonly Criterion[],
): Met[] {
  const said = new Map(before.map(({ id, text }) => [id, text]));
  const same = new Set(after.filter(({ id, text }) => said.get(id) === text).map(({ id }) => id));
  return met.filter(({ criterionId }) => same.has(criterionId));
}

/** How many of the criteria of an item nobody has found met. */
export const openCriteria = (item: {
  criteria: readonly Criterion[];
  met: readonly Met[];
}): number => item.criteria.length - item.met.length;

/** What is different about some criteria, in words: "added “…”", "took out 2". */
export function criteriaChange(before: readonly Criterion[], after: readonly Criterion[]): string {
  const was = new Map(before.map(({ id, text }) => [id, text]));
  const is = new Map(after.map(({ id, text }) => [id, text]));
  const quoted = (of: readonly Criterion[]) => of.map(({ text }) => `“${text}”`).join(", ");
  const added = after.filter(({ id }) => !was.has(id));
  const gone = before.filter(({ id }) => !is.has(id));
  const rewritten = after.filter(({ id, text }) => was.has(id) && was.get(id) !== text);
  const parts = [
    added.length > 0 && `added ${quoted(added)}`,
    rewritten.length > 0 && `rewrote ${quoted(rewritten)}`,
    gone.length > 0 && `took out ${quoted(gone)}`,
  ].filter((part) => part !== false);
  return parts.length === 0 ? "changed the order" : parts.join(", ");
}
