import { z } from "zod";
import { CLASSES_OF_SERVICE, ORIGINS, PRIORITIES, SEVERITIES } from "@/core/item/fields";
import { IMPACTS, triageRulesSchema, URGENCIES } from "@/core/intake/triage-rules";
import { editableFields, overrideReason } from "@/core/item/request";
import { workingCalendarSchema } from "@/core/calendar/working-time";
import { importedReportSchema } from "@/core/formats/report-table";
import { formDefinitionSchema, FIRST_FORM } from "./form";
import { reproductionSchema } from "./reproduction";
import { scoringModelSchema } from "./scoring";
import { serviceTargetSchema, MOST_TARGETS } from "./service-target";

const id = z.string().min(1).max(64);

export const verdictRequest = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("accept"),
    acceptance: z.object({
      title: editableFields.shape.title,
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
      dueOn: editableFields.shape.dueOn.default(null),
      parts: editableFields.shape.parts.nullable().default(null),
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
    watched: z.boolean().optional(),
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
  /** A lead's reason for an item that goes beyond a firm limit. */
  overrideReason,
  /** How long the report was open before the verdict. */
  tookMs: z.number().int().min(0).max(86_400_000).nullable().default(null),
});
export type VerdictBody = z.infer<typeof verdictBody>;

/** Which parts of the product a report is about; null takes back that anybody said so. */
export const partsBody = z.object({ parts: editableFields.shape.parts.nullable() });
export type PartsBody = z.infer<typeof partsBody>;

/** What would be done with a report: put to an item, or parked until a day or an item's end. */
export const breaksQuery = z.object({
  verdict: z.enum(["merge", "park"]),
  item: z.uuid().optional(),
  until: z.iso.date().optional(),
});
export type BreaksQuery = z.infer<typeof breaksQuery>;

const addressName = z
  .string()
  .trim()
  .toLowerCase()
  .regex(
    /^[a-z0-9][a-z0-9.-]{0,62}$/,
    "An address begins with a letter or figure and has only letters, figures, dots and dashes.",
  );

export const addressBody = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("add"), name: addressName, teamId: z.string().max(64).nullable() }),
  z.object({
    kind: z.literal("change"),
    name: addressName,
    teamId: z.string().max(64).nullable().optional(),
    open: z.boolean().optional(),
  }),
  z.object({ kind: z.literal("remove"), name: addressName }),
]);
export type AddressRequest = z.infer<typeof addressBody>;

export const knownBody = z.object({
  /** Words for people outside; null: not published any more. */ words: z
    .string()
    .trim()
    .min(1, "Say in words for people outside what is wrong.")
    .max(200)
    .nullable(),
});

export const worthBody = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("score"),
    itemId: z.uuid(),
    scores: z.record(id, z.number().min(0).max(1_000)),
  }),
  z.object({
    kind: z.literal("reorder"),
    commandId: z.uuid(),
    /** The order that was seen, and the one that is wanted: the same items. */
    seen: z.array(z.uuid()).max(5_000),
    wanted: z.array(z.uuid()).max(5_000),
  }),
]);
export type WorthRequest = z.infer<typeof worthBody>;

export const reproductionBody = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("tried"), id: z.uuid(), try: reproductionSchema }),
  z.object({ kind: z.literal("take back"), id: z.uuid() }),
]);
export type ReproductionRequest = z.infer<typeof reproductionBody>;

export const MOST_AT_ONCE = 500;

export const importBody = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("import"),
    importId: z.uuid(),
    /** Counts the parts of one import; sent again, a part changes nothing. */ part: z
      .number()
      .int()
      .min(0)
      .max(100),
    reports: z.array(importedReportSchema).min(1).max(MOST_AT_ONCE),
  }),
  z.object({ kind: z.literal("take back"), importId: z.uuid() }),
]);
export type ImportRequest = z.infer<typeof importBody>;

export const quickBody = z.object({
  title: z.string().trim().min(1, "Say in a few words what is wrong.").max(200),
  happened: z.string().trim().max(10_000).default(""),
  /** The item that was in view. */
  itemKey: z.string().max(30).nullable().default(null),
  /** The mail address of whoever called; without it whoever writes it down is the sender. */
  caller: z
    .union([z.literal(""), z.email("This is no mail address we could write to.").max(200)])
    .default(""),
});

export const rulesBody = z.object({
  seenVersion: z.number().int().min(0),
  calendar: workingCalendarSchema.optional(),
  targets: z
    .array(serviceTargetSchema)
    .max(MOST_TARGETS, `A project has at most ${MOST_TARGETS} targets.`)
    .optional(),
  scoring: scoringModelSchema.optional(),
  triage: triageRulesSchema.optional(),
});
export type RulesRequest = z.infer<typeof rulesBody>;

const slug = z
  .string()
  .regex(/^[a-z0-9][a-z0-9-]{0,39}$/, "An address is of small letters, digits and dashes.");

export const formBody = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("add"), slug, definition: formDefinitionSchema.default(FIRST_FORM) }),
  z.object({
    kind: z.literal("change"),
    id: z.uuid(),
    seenVersion: z.number().int().positive(),
    slug: slug.optional(),
    definition: formDefinitionSchema.optional(),
    open: z.boolean().optional(),
    embeddable: z.boolean().optional(),
  }),
  z.object({ kind: z.literal("remove"), id: z.uuid() }),
  z.object({ kind: z.literal("bring back"), id: z.uuid() }),
]);
export type FormRequest = z.infer<typeof formBody>;

export const undoVerdictBody = z.object({ verdictId: z.uuid() });
