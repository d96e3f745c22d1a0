import { z } from "zod";
import {
  CLASSES_OF_SERVICE,
  LINK_KINDS,
  ORIGINS,
  PRIORITIES,
  SEVERITIES,
} from "@/core/item/fields";
import { ownChangesSchema, ownValueSchema } from "@/core/item/own-field";
import { OUTCOMES } from "@/core/workflow/state";

/*
 * What may be asked of items from outside. Sizes are generous for people and small for machines;
 * text is stored as it was written and only ever rendered as text or through the sanitised Markdown
 * view.
 */

const id = z.string().min(1).max(64);
export const title = z
  .string()
  .trim()
  .min(1, "An item needs a title.")
  .max(300, "Use at most 300 characters.");
const longText = z.string().max(50_000, "Use at most 50,000 characters.");
const isoDate = z.iso.date();

export const editableFields = z.object({
  title,
  description: longText,
  typeId: id,
  severity: z.enum(SEVERITIES).nullable(),
  priority: z.enum(PRIORITIES),
  classOfService: z.enum(CLASSES_OF_SERVICE),
  origin: z.enum(ORIGINS),
  estimate: z.number().min(0).max(10_000).nullable(),
  teamId: id.nullable(),
  assigneeId: id.nullable(),
  reviewerId: id.nullable(),
  place: z.string().max(200).nullable(),
  howToTest: longText.nullable(),
  dueOn: isoDate.nullable(),
  sprintId: id.nullable(),
  releaseId: id.nullable(),
  remainingHours: z.number().min(0).max(10_000).nullable(),
  restricted: z.boolean(),
  labels: z
    .array(z.string().trim().min(1).max(40))
    .max(20)
    .transform((labels) => [...new Set(labels)]),
});

export const commandRequest = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("move"),
    from: id,
    to: id,
    answers: z
      .object({
        description: longText,
        howToTest: longText,
        assigneeId: id,
        reviewerId: id,
        teamId: id,
        estimate: z.number().min(0).max(10_000),
        severity: z.enum(SEVERITIES),
        place: z.string().max(200),
        dueOn: isoDate,
        sprintId: id,
        releaseId: id,
        own: z.record(id, ownValueSchema),
        reason: z.string().max(2_000),
        comment: z.string().max(20_000),
        outcome: z.enum(OUTCOMES),
        ticks: z.array(id).max(60),
      })
      .partial()
      .default({}),
    overrideReason: z.string().max(2_000).optional(),
  }),
  z.object({
    kind: z.literal("edit"),
    seenVersion: z.number().int().positive(),
    changes: editableFields.partial(),
    own: ownChangesSchema.optional(),
  }),
  z.object({ kind: z.literal("place"), below: z.uuid().nullable() }),
  /** Under another item of the project, by its key; null: under none. */
  z.object({ kind: z.literal("put under"), parentKey: z.string().max(30).nullable() }),
  z.object({
    kind: z.literal("comment"),
    body: z.string().trim().min(1, "Write something first.").max(20_000),
  }),
  z.object({
    kind: z.literal("ask"),
    body: z.string().trim().min(1, "Write a question first.").max(10_000),
  }),
  z.object({
    kind: z.literal("block"),
    cause: z.string().trim().min(1, "A blocker needs a cause.").max(500),
    waitingFor: z.string().trim().max(200).nullable(),
  }),
  z.object({ kind: z.literal("lift"), blockId: z.uuid() }),
  z.object({ kind: z.literal("link"), linkKind: z.enum(LINK_KINDS), otherKey: z.string().max(30) }),
  z.object({ kind: z.literal("unlink"), linkId: z.uuid() }),
  z.object({ kind: z.literal("tick"), policyId: id, on: z.boolean() }),
  z.object({ kind: z.literal("approve"), on: z.boolean() }),
  z.object({ kind: z.literal("undo"), commandId: z.uuid() }),
]);
export type CommandRequest = z.infer<typeof commandRequest>;

export const itemCommandBody = z.object({
  /** Chosen by the sender; the same command sent twice is carried out once. */
  commandId: z.uuid(),
  itemId: z.uuid(),
  command: commandRequest,
});

export const createItemBody = z.object({
  commandId: z.uuid(),
  projectKey: z.string().max(12),
  parentId: z.uuid().nullable().default(null),
  fields: editableFields
    .partial()
    .extend({ title, typeId: id, own: z.record(id, ownValueSchema).optional() }),
});
export type CreateItemRequest = z.infer<typeof createItemBody>;
