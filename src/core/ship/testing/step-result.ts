import { z } from "zod";
import { MOST_CASE_TITLE } from "./test-case";

/** What a tester saw: as expected, not so, or that the step could not be tried. */
export const STEP_RESULTS = ["passed", "failed", "blocked"] as const;
export type StepResult = (typeof STEP_RESULTS)[number];

/**
 * What is to come of a step that failed: a task under the item, as it belongs to what is being built; a
 * bug of its own, as it was there before; or an expedited bug, as it must be mended now.
 */
export const FAILURE_COURSES = ["belongs to it", "was there before", "mend now"] as const;
export type FailureCourse = (typeof FAILURE_COURSES)[number];

const MOST_NOTE = 4_000;

/** What is said of a step; without a result it is not tried. */
export const stepResultBody = z
  .object({
    caseId: z.uuid(),
    stepId: z.uuid(),
    result: z.enum(STEP_RESULTS).nullable(),
    note: z.string().trim().max(MOST_NOTE, `Use at most ${MOST_NOTE} characters.`).default(""),
    course: z.enum(FAILURE_COURSES).nullable().default(null),
    givenTo: z.string().min(1).max(64).nullable().default(null),
  })
  .refine(({ result, note }) => result !== "failed" || note !== "", {
    error: "Say what you saw: whoever mends it was not there.",
    path: ["note"],
  })
  .refine(({ result, note }) => result !== "blocked" || note !== "", {
    error: "Say what kept you from trying it.",
    path: ["note"],
  });
export type StepResultBody = z.output<typeof stepResultBody>;

const hours = z.number().min(0).max(200);

/** How a run ends: what becomes of the items that were tested, and what mending is thought to take. */
export const endRunBody = z.object({
  /** By it the end is known when it is sent twice. */
  commandId: z.uuid(),
  /** Of what belongs to an item: how long mending a step may take, in hours. */
  mendingHours: hours.default(2),
  /** How long it takes to test it again. */
  retestHours: hours.default(0.5),
  /** Where items go, by their ids; one that is not named stays. */
  moves: z.record(z.uuid(), z.string().min(1).max(64)).default({}),
});
export type EndRunBody = z.output<typeof endRunBody>;

export const startRunBody = z.object({
  id: z.uuid(),
  /** What is tested: an item; else a suite; else the cases by themselves. */
  itemKey: z.string().max(30).nullable().default(null),
  suiteId: z.uuid().nullable().default(null),
  caseIds: z
    .array(z.uuid())
    .min(1, "Choose a case.")
    .max(100, "A run has at most 100 cases.")
    .refine((ids) => new Set(ids).size === ids.length, "A case stands in a run once."),
  environment: z.string().trim().min(1).max(60).nullable().default(null),
  build: z.string().trim().min(1).max(120).nullable().default(null),
  /** The state that the item comes to as it is tested now; nowhere: it stays. */
  takeTo: z.string().min(1).max(64).nullable().default(null),
  /** Nobody: whoever asks. */
  testerId: z.string().min(1).max(64).nullable().default(null),
});
export type StartRunBody = z.output<typeof startRunBody>;

export const suiteBody = z.object({
  id: z.uuid(),
  name: z
    .string()
    .trim()
    .min(1, "A suite needs a name.")
    .max(MOST_CASE_TITLE, `Use at most ${MOST_CASE_TITLE} characters.`),
  putAway: z.boolean().default(false),
});
