import { z } from "zod";
import { CLASSES_OF_SERVICE, ORIGINS, PRIORITIES, SEVERITIES } from "@/core/item/fields";
import { IMPACTS, URGENCIES } from "@/core/intake/triage-rules";
import { editableFields, title } from "../item/request";

const id = z.string().min(1).max(64);

export const verdictRequest = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("accept"),
    acceptance: z.object({
      title,
      typeId: id,
      severity: z.enum(SEVERITIES).nullable(),
      priority: z.enum(PRIORITIES),
      classOfService: z.enum(CLASSES_OF_SERVICE),
      origin: z.enum(ORIGINS),
      teamId: id.nullable(),
      assigneeId: id.nullable(),
      place: z.discriminatedUnion("at", [
        z.object({ at: z.literal("top") }),
        z.object({ at: z.literal("bottom") }),
        z.object({ at: z.literal("below"), itemId: z.uuid() }),
      ]),
      onBoard: z.boolean().default(false),
      area: z.string().trim().max(200).nullable().default(null),
      labels: editableFields.shape.labels.default([]),
      sprintId: id.nullable().default(null),
      releaseId: id.nullable().default(null),
      impact: z.enum(IMPACTS).nullable().default(null),
      urgency: z.enum(URGENCIES).nullable().default(null),
      restricted: z.boolean().default(false),
      found: z
        .discriminatedUnion("where", [
          z.object({
            where: z.literal("in work"),
            itemId: z.uuid("Choose the item it was found in."),
            hours: z.number().min(0).max(1_000),
            retestHours: z.number().min(0).max(1_000),
          }),
          z.object({ where: z.literal("in finished work"), itemId: z.uuid().nullable() }),
          z.object({ where: z.literal("fix now") }),
        ])
        .nullable()
        .default(null),
    }),
  }),
  z.object({ kind: z.literal("merge"), itemId: z.uuid() }),
  z.object({
    kind: z.literal("ask"),
    question: z.string().trim().min(1, "Write what you need to know.").max(5_000),
  }),
  z.object({
    kind: z.literal("park"),
    until: z.iso.date("Choose the day on which to look at it again.").nullable(),
    itemId: z.uuid("Choose the item to wait for.").nullable().default(null),
  }),
  z.object({
    kind: z.literal("decline"),
    reason: z.string().trim().min(1, "The requester reads this reason.").max(2_000),
  }),
]);

export const verdictBody = z.object({
  /** Chosen by the sender; it also names the verdict for undoing it. */
  commandId: z.uuid(),
  /** The version of the report that the triager read. */
  seenVersion: z.number().int().positive(),
  verdict: verdictRequest,
  /** How long the report was open before the verdict. */
  tookMs: z.number().int().min(0).max(86_400_000).nullable().default(null),
});
export type VerdictBody = z.infer<typeof verdictBody>;

export const answerBody = z.object({
  answer: z
    .string()
    .trim()
    .min(1, "Write your answer first.")
    .max(10_000, "Use at most 10,000 characters."),
});

/** A step that the requester takes on their private page. */
export const requesterMoveBody = z.object({
  from: z.string().min(1).max(64),
  to: z.string().min(1).max(64),
  words: z.string().trim().max(2_000).default(""),
});
export type RequesterMove = z.infer<typeof requesterMoveBody>;

/** Somebody else to whom it happened. */
export const followBody = z.object({
  mail: z.email("This is no mail address we could write to.").max(200),
});
