import { z } from "zod";
import { LIMIT_UNITS } from "../board/limit-counting";
import { followUpSchema } from "./follow-ups/table";
import { ID, wordsOf } from "./parameter";
import { type Mover } from "./requirement";
import { triggerSchema } from "./trigger";
import type { Transition, Workflow } from "./workflow";
import { OUTCOMES, STATE_KINDS, type State } from "./state";
import { requirementSchema } from "./requirements/table";

/*
 * What a workflow's document looks like, whether it comes from the database, a draft or a file.
 * What older documents do not have yet is filled in with its plain value, so every version that was
 * ever stored can be read.
 */

export const STATE_NAME_LENGTH = 60;
/** More than any process needs, few enough to draw and to check at once. */
export const MOST_STATES = 200;
export const MOST_TRANSITIONS = 1_000;

const MOST_ITEMS = 10_000;
const days = z.number().positive().max(3_650).nullable().default(null);
const outcome = z.enum(OUTCOMES);

const policy = z.object({ id: ID, text: wordsOf(200) });

export const stateSchema: z.ZodType<State> = z.object({
  id: ID,
  name: wordsOf(STATE_NAME_LENGTH),
  kind: z.enum(STATE_KINDS),
  stage: wordsOf(60).nullable().default(null),
  position: z.number().int().min(0),
  teamId: ID.nullable().default(null),
  byReviewer: z.boolean().default(false),
  expectedDays: days,
  tooOldDays: days,
  limit: z
    .object({
      max: z.number().int().min(1).max(MOST_ITEMS).nullable(),
      firm: z.boolean(),
      min: z.number().int().min(0).max(MOST_ITEMS).nullable().default(null),
      minFirm: z.boolean().default(false),
      unit: z.enum(LIMIT_UNITS).optional(),
      level: z.number().int().min(0).max(9).nullish(),
      fixedDatePasses: z.boolean().optional(),
    })
    .refine(({ min, max }) => min === null || max === null || min <= max, {
      message: "The minimum is above the maximum.",
      path: ["min"],
    })
    .nullable()
    .default(null),
  entryPolicies: z.array(policy).max(30).default([]),
  exitPolicies: z.array(policy).max(30).default([]),
  outcomes: z.array(outcome).max(OUTCOMES.length).default([]),
});

const mover: z.ZodType<Mover> = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("role"), role: z.enum(["lead", "member"]) }),
  z.object({ kind: z.literal("team"), teamId: ID }),
  z.object({ kind: z.literal("assignee") }),
  z.object({ kind: z.literal("not the assignee") }),
  z.object({ kind: z.literal("reviewer") }),
  z.object({ kind: z.literal("requester") }),
]);

export const transitionSchema: z.ZodType<Transition> = z.object({
  id: ID,
  // Older documents name one state.
  from: z.preprocess(
    (from) => (typeof from === "string" ? [from] : from),
    z.array(ID).min(1).max(MOST_STATES).nullable(),
  ),
  to: ID,
  verb: wordsOf(60),
  who: z.array(mover).max(10).default([]),
  requirements: z.array(requirementSchema).max(30).default([]),
  followUps: z.array(followUpSchema).max(20).default([]),
  triggers: z.array(triggerSchema).max(10).default([]),
});

/**
 * A workflow's document. Whether it makes sense as a process is for the check to say, not for its
 * form.
 */
export const workflowSchema: z.ZodType<Workflow> = z
  .object({
    id: ID,
    name: wordsOf(80),
    version: z.number().int().min(0),
    states: z.array(stateSchema).min(1).max(MOST_STATES),
    transitions: z.array(transitionSchema).max(MOST_TRANSITIONS),
  })
  .superRefine((workflow, context) => {
    const states = new Set(workflow.states.map((s) => s.id));
    const complain = (message: string) => context.addIssue({ code: "custom", message });
    if (states.size < workflow.states.length) complain("Two states have the same id.");
    if (new Set(workflow.transitions.map((t) => t.id)).size < workflow.transitions.length)
      complain("Two moves have the same id.");
    for (const t of workflow.transitions)
      if (![t.to, ...(t.from ?? [])].every((s) => states.has(s)))
        complain(`The move “${t.verb}” leads from or to a state that is not there.`);
  });
