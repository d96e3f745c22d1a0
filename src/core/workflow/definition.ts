import { z } from "zod";
import { itemField, type SetField, SET_FIELDS } from "@/core/item/fields";
import { ownValueSchema } from "@/core/item/own-field";
import type { FieldValue, FollowUp, Recipient } from "./follow-up";
import { type Mover } from "./requirement";
import { TRIGGER_KINDS, type Trigger, type TriggerKind } from "./trigger";
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

const id = z.string().min(1).max(64);
const words = (most: number) => z.string().trim().min(1).max(most);
const days = z.number().positive().max(3_650).nullable().default(null);
const outcome = z.enum(OUTCOMES);

const policy = z.object({ id, text: words(200) });

export const stateSchema: z.ZodType<State> = z.object({
  id,
  name: words(STATE_NAME_LENGTH),
  kind: z.enum(STATE_KINDS),
  stage: words(60).nullable().default(null),
  position: z.number().int().min(0),
  teamId: id.nullable().default(null),
  expectedDays: days,
  tooOldDays: days,
  limit: z
    .object({ max: z.number().int().min(1).max(10_000), firm: z.boolean() })
    .nullable()
    .default(null),
  entryPolicies: z.array(policy).max(30).default([]),
  exitPolicies: z.array(policy).max(30).default([]),
  outcomes: z.array(outcome).max(OUTCOMES.length).default([]),
});

const mover: z.ZodType<Mover> = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("role"), role: z.enum(["lead", "member"]) }),
  z.object({ kind: z.literal("team"), teamId: id }),
  z.object({ kind: z.literal("assignee") }),
  z.object({ kind: z.literal("not the assignee") }),
  z.object({ kind: z.literal("reviewer") }),
  z.object({ kind: z.literal("requester") }),
]);

/** A field that a follow-up sets, with what it may be set to. */
const setField = (field: SetField) =>
  z.object({
    field: z.literal(field),
    value: itemField(field).followUp === "nothing" ? z.null() : itemField(field).schema,
  });

const fieldValue = z.union([
  z.object({ field: z.literal("own"), fieldId: id, value: ownValueSchema.nullable() }),
  ...SET_FIELDS.map(setField),
]) as z.ZodType<FieldValue>;

const newAssignee = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("person"), personId: id }),
  z.object({ kind: z.literal("nobody") }),
  z.object({ kind: z.literal("mover") }),
  z.object({ kind: z.literal("creator") }),
  z.object({ kind: z.literal("reviewer") }),
  z.object({ kind: z.literal("previous assignee") }),
  z.object({ kind: z.literal("least loaded"), teamId: id }),
  z.object({ kind: z.literal("in turn"), teamId: id }),
]);

const recipient: z.ZodType<Recipient> = z.discriminatedUnion("kind", [
  z.object({ kind: z.enum(["assignee", "reviewer", "creator", "requester", "leads"]) }),
  z.object({ kind: z.literal("person"), personId: id }),
  z.object({ kind: z.literal("team"), teamId: id }),
]);

const followUp: z.ZodType<FollowUp> = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("set field"), change: fieldValue }),
  z.object({ kind: z.literal("assign"), to: newAssignee }),
  z.object({ kind: z.literal("set outcome"), outcome }),
  z.object({ kind: z.literal("comment"), text: words(2_000) }),
  z.object({ kind: z.literal("create sub-tasks"), titles: z.array(words(300)).min(1).max(20) }),
  z.object({ kind: z.literal("finish duplicates") }),
  z.object({ kind: z.literal("reopen duplicates") }),
  z.object({ kind: z.literal("tell"), whom: z.array(recipient).min(1).max(20), text: words(500) }),
  z.object({ kind: z.literal("put on top") }),
]);

type PlainTrigger = Exclude<TriggerKind, "deployed" | "days in state" | "date reached">;
const plainTriggers = TRIGGER_KINDS.filter(
  (kind): kind is PlainTrigger =>
    kind !== "deployed" && kind !== "days in state" && kind !== "date reached",
);

const trigger: z.ZodType<Trigger> = z.discriminatedUnion("kind", [
  z.object({ kind: z.enum(plainTriggers as [PlainTrigger, ...PlainTrigger[]]) }),
  z.object({ kind: z.literal("deployed"), environment: words(60) }),
  z.object({ kind: z.literal("days in state"), days: z.number().positive().max(3_650) }),
  z.object({ kind: z.literal("date reached"), field: z.literal("dueOn") }),
]) as z.ZodType<Trigger>;

export const transitionSchema: z.ZodType<Transition> = z.object({
  id,
  // Older documents name one state.
  from: z.preprocess(
    (from) => (typeof from === "string" ? [from] : from),
    z.array(id).min(1).max(MOST_STATES).nullable(),
  ),
  to: id,
  verb: words(60),
  who: z.array(mover).max(10).default([]),
  requirements: z.array(requirementSchema).max(30).default([]),
  followUps: z.array(followUp).max(20).default([]),
  triggers: z.array(trigger).max(10).default([]),
});

/**
 * A workflow's document. Whether it makes sense as a process is for the check to say, not for its
 * form.
 */
export const workflowSchema: z.ZodType<Workflow> = z
  .object({
    id,
    name: words(80),
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
