import { z } from "zod";
import {
  ITEM_FIELDS,
  type EditableFields,
  type EditableField,
  EDITABLE_FIELDS,
  type DemandedItemField,
  DEMANDED_FIELDS,
  LINK_KINDS,
} from "@/core/item/fields";
import {
  MOST_OWN_FIELDS,
  ownChangesSchema,
  ownFieldSchema,
  ownValueSchema,
} from "@/core/item/own-field";
import { TALK_CLOSINGS } from "@/core/talk/comment";
import { LAST_PAGE } from "@/core/talk/spot";
import { MOST_MINUTES } from "@/core/time/entry";
import { OUTCOMES } from "@/core/workflow/state";

/*
 * What may be asked of items from outside. Sizes are generous for people and small for machines;
 * text is stored as it was written and only ever rendered as text or through the sanitised Markdown
 * view.
 */

const id = z.string().min(1).max(64);

const part = z.number().min(0).max(1);
const fileSpot = z.object({
  fileId: z.uuid(),
  page: z.number().int().min(1).max(LAST_PAGE).nullable(),
  x: part,
  y: part,
});

type Schemas = { [F in EditableField]: (typeof ITEM_FIELDS)[F]["schema"] };

/** The fields of an item as they may be sent. */
export const editableFields = z.object(
  Object.fromEntries(EDITABLE_FIELDS.map((f) => [f, ITEM_FIELDS[f].schema])) as Schemas,
);

/** An answer to what a move demands always says something. */
const answer = (schema: z.ZodType) =>
  schema instanceof z.ZodNullable ? (schema.unwrap() as z.ZodType) : schema;
type AnswerSchemas = { [F in DemandedItemField]: z.ZodType<NonNullable<EditableFields[F]>> };
const demandedAnswers = Object.fromEntries(
  DEMANDED_FIELDS.map((f) => [f, answer(ITEM_FIELDS[f].schema)]),
) as AnswerSchemas;

/** A lead's reason for going beyond a firm limit. */
export const overrideReason = z.string().max(2_000).optional();

export const commandRequest = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("move"),
    from: id,
    to: id,
    answers: z
      .object({
        ...demandedAnswers,
        own: z.record(id, ownValueSchema),
        reason: z.string().max(2_000),
        comment: z.string().max(20_000),
        outcome: z.enum(OUTCOMES),
        ticks: z.array(id).max(60),
      })
      .partial()
      .default({}),
    overrideReason,
  }),
  z.object({
    kind: z.literal("edit"),
    seenVersion: z.number().int().positive(),
    changes: editableFields.partial(),
    own: ownChangesSchema.optional(),
    overrideReason,
  }),
  z.object({
    kind: z.literal("place"),
    below: z.uuid().nullable(),
    /** Looked at where it is to stand below none. */
    above: z.uuid().optional(),
  }),
  /** Under another item of the project, by its key; null: under none. */
  z.object({ kind: z.literal("put under"), parentKey: z.string().max(30).nullable() }),
  z.object({
    kind: z.literal("comment"),
    body: z.string().trim().min(1, "Write something first.").max(20_000),
    /** The comment that it answers. */
    answersId: z.uuid().optional(),
    /** Whether those who are named are asked to answer; where nobody is, whoever has the item. */
    asks: z.boolean().optional(),
    spot: fileSpot.optional(),
  }),
  z.object({
    kind: z.literal("edit comment"),
    commentId: z.uuid(),
    body: z.string().trim().min(1, "Take it back instead of emptying it.").max(20_000),
  }),
  z.object({
    kind: z.literal("take back comment"),
    commentId: z.uuid(),
    why: z.string().trim().max(500).default(""),
  }),
  z.object({ kind: z.literal("close talk"), closing: z.enum(TALK_CLOSINGS).nullable() }),
  z.object({
    kind: z.literal("ask"),
    body: z.string().trim().min(1, "Write a question first.").max(10_000),
  }),
  z.object({
    kind: z.literal("block"),
    cause: z.string().trim().min(1, "A blocker needs a cause.").max(500),
    waitingFor: z.string().trim().max(200).nullable(),
    /** An item that it waits for: its delivery lifts the blocker. */
    dependencyId: z.uuid().optional(),
  }),
  z.object({ kind: z.literal("lift"), blockId: z.uuid() }),
  z.object({ kind: z.literal("ready"), on: z.boolean() }),
  z.object({
    kind: z.literal("link"),
    linkKind: z.enum(LINK_KINDS),
    otherKey: z.string().max(30),
    /** Whether it is the other item of which this is said: that one waits for this one. */
    turned: z.boolean().optional(),
  }),
  z.object({ kind: z.literal("unlink"), linkId: z.uuid() }),
  z.object({ kind: z.literal("tick"), policyId: id, on: z.boolean() }),
  /** Finds one of its acceptance criteria met, or not any more. */
  z.object({ kind: z.literal("meet"), criterionId: z.uuid(), on: z.boolean() }),
  z.object({ kind: z.literal("approve"), on: z.boolean() }),
  z.object({ kind: z.literal("remove file"), fileId: z.uuid() }),
  z.object({ kind: z.literal("put file back"), fileId: z.uuid() }),
  /** Records time, or changes what is recorded under the same id. */
  z.object({
    kind: z.literal("record time"),
    entryId: z.uuid(),
    minutes: z.number().int().min(1).max(MOST_MINUTES),
    on: z.iso.date(),
    note: z.string().trim().max(500).default(""),
    /** What is left then, in hours; left out where it stays as it is. */
    left: ITEM_FIELDS.remainingHours.schema.optional(),
  }),
  z.object({
    kind: z.literal("remove time"),
    entryId: z.uuid(),
    left: ITEM_FIELDS.remainingHours.schema.optional(),
  }),
  z.object({
    kind: z.literal("withdraw"),
    why: z.string().trim().min(1, "Say why it goes.").max(500),
    /** Whether what stands under it and is not begun goes too. */
    below: z.boolean().default(false),
  }),
  z.object({ kind: z.literal("bring back") }),
  /** Into another type; where that follows another workflow, with the state to be in. */
  z.object({ kind: z.literal("change type"), typeId: id, stateId: id.nullable() }),
  /** Into another project; the type and the state there, or those that fit best. */
  z.object({
    kind: z.literal("change project"),
    projectKey: z.string().min(1).max(20),
    typeId: id.nullable(),
    stateId: id.nullable(),
    /** What fields there must say and would not. */
    own: z
      .record(id, ownValueSchema)
      .refine((own) => Object.keys(own).length <= MOST_OWN_FIELDS, "Too many fields at once.")
      .default({}),
  }),
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
  fields: editableFields.partial().extend({
    title: ITEM_FIELDS.title.schema,
    typeId: id,
    own: z.record(id, ownValueSchema).optional(),
  }),
  overrideReason,
});
export type CreateItemRequest = z.infer<typeof createItemBody>;

export const fieldEditBody = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("save"), field: ownFieldSchema }),
  z.object({ kind: z.literal("remove"), id: z.string().min(1).max(64) }),
  z.object({ kind: z.literal("bring back"), id: z.string().min(1).max(64) }),
  /** All fields in their new order. */
  z.object({
    kind: z.literal("order"),
    ids: z.array(z.string().min(1).max(64)).max(MOST_OWN_FIELDS * 2),
  }),
]);
export type FieldEdit = z.infer<typeof fieldEditBody>;
