import { z } from "zod";
import type { Criterion } from "@/core/item/criterion";
import { LONGEST_TERM } from "@/core/item/terms/term";

/*
 * What is tried to see that something works: steps, each with what is expected of it. A case has a key of
 * its own beside those of items, such as TIX-T88; every change of what it says is a version.
 */

/** One thing that is done, and what has to be seen then. */
export interface TestStep {
  /** The same in every version in which the step stands. */
  id: string;
  action: string;
  expected: string;
}

/** What a case says. */
export interface CaseText {
  title: string;
  /** What has to be so before. */
  before: string;
  steps: TestStep[];
}

export const MOST_STEPS = 60;
export const LONGEST_STEP = 1_000;
export const MOST_CASE_TITLE = 200;
const MOST_BEFORE = 2_000;

const line = z.string().trim().max(LONGEST_STEP, `Use at most ${LONGEST_STEP} characters.`);

const stepSchema = z
  .object({ id: z.uuid(), action: line, expected: line })
  .refine(({ action, expected }) => action !== "" || expected !== "", {
    error: "A step says what is done, or what is to be seen.",
    path: ["action"],
  });

export const caseText = z.object({
  title: z
    .string()
    .trim()
    .min(1, "A case needs a title.")
    .max(MOST_CASE_TITLE, `Use at most ${MOST_CASE_TITLE} characters.`),
  before: z.string().trim().max(MOST_BEFORE, `Use at most ${MOST_BEFORE} characters.`),
  steps: z
    .array(stepSchema)
    .min(1, "A case needs a step.")
    .max(MOST_STEPS, `A case has at most ${MOST_STEPS} steps: make two of it.`)
    .refine(
      (steps) => new Set(steps.map(({ id }) => id)).size === steps.length,
      "A step stands there once.",
    ),
});

/** A case as it is made, or written anew. */
export const caseBody = caseText.extend({
  id: z.uuid(),
  /** The version that whoever writes had before them; null for a new one. */
  seenVersion: z.number().int().positive().nullable(),
  part: z.string().trim().min(1).max(LONGEST_TERM).nullable(),
  suiteId: z.uuid().nullable(),
  /** The item that a new one is written for. */
  itemKey: z.string().max(30).nullable().default(null),
});
export type CaseBody = z.output<typeof caseBody>;

const CASE_KEY = /\b([A-Z][A-Z0-9]{1,9})[-_ ]T(\d{1,7})(?!\d)/i;

/** The key of a case: TIX-T88. */
export const caseKey = (projectKey: string, number: number): string => `${projectKey}-T${number}`;

/**
 * The case that a text names by its key, as people and as tests write it: "TIX-T88", "tix_t88".
 * Null where it names none.
 */
export function caseNamed(text: string): { projectKey: string; number: number } | null {
  const [, projectKey, number] = CASE_KEY.exec(text) ?? [];
  return projectKey ? { projectKey: projectKey.toUpperCase(), number: Number(number) } : null;
}

/**
 * The steps that acceptance criteria come to: each is something to be seen; what is done for that its
 * maker writes.
 * @param newId gives the next identity
 */
export const stepsOfCriteria = (criteria: readonly Criterion[], newId: () => string): TestStep[] =>
  criteria.map(({ text }) => ({ id: newId(), action: "", expected: text }));

/** Whether two say the same, word for word and step for step. */
export const saysTheSame = (a: CaseText, b: CaseText): boolean =>
  a.title === b.title &&
  a.before === b.before &&
  a.steps.length === b.steps.length &&
  a.steps.every((step, i) => {
    const other = b.steps[i];
    return step.id === other.id && step.action === other.action && step.expected === other.expected;
  });

/** What is different between two versions, in words: "rewrote step 2", "added 1 step". */
export function caseChange(before: CaseText, after: CaseText): string {
  const was = new Map(before.steps.map((step) => [step.id, step]));
  const is = new Set(after.steps.map(({ id }) => id));
  const added = after.steps.filter(({ id }) => !was.has(id)).length;
  const gone = before.steps.filter(({ id }) => !is.has(id)).length;
  const rewritten = after.steps.flatMap(({ id, action, expected }, i) => {
    const old = was.get(id);
    return old && (old.action !== action || old.expected !== expected) ? [i + 1] : [];
  });
  const steps = (n: number) => (n === 1 ? "1 step" : `${n} steps`);
  const parts = [
    before.title !== after.title && "gave it another title",
    before.before !== after.before && "rewrote what has to be so before",
    rewritten.length > 0 &&
      `rewrote step${rewritten.length === 1 ? "" : "s"} ${rewritten.join(", ")}`,
    added > 0 && `added ${steps(added)}`,
    gone > 0 && `took out ${steps(gone)}`,
  ].filter((part) => part !== false);
  return parts.length > 0 ? parts.join(", ") : "changed the order";
}
