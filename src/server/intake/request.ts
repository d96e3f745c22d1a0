import { z } from "zod";
import { CLASSES_OF_SERVICE, ORIGINS, PRIORITIES, SEVERITIES } from "@/core/item/fields";
import { title } from "../item/request";

/** What the public report form sends. */
export const reportForm = z.object({
  title: z.string().trim().min(1, "Say in a few words what is wrong.").max(200, "Use at most 200 characters here; the details go below."),
  happened: z.string().trim().min(1, "Tell us what happened.").max(10_000, "Use at most 10,000 characters."),
  reproduce: z.string().trim().max(10_000, "Use at most 10,000 characters.").default(""),
  place: z.string().trim().max(200, "Use at most 200 characters.").default(""),
  mail: z.email("This is no mail address we could write to.").max(200),
});
export type ReportForm = z.infer<typeof reportForm>;

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
      found: z
        .discriminatedUnion("where", [
          z.object({ where: z.literal("in work"), itemId: z.uuid("Choose the item it was found in."), hours: z.number().min(0).max(1_000), retestHours: z.number().min(0).max(1_000) }),
          z.object({ where: z.literal("in finished work"), itemId: z.uuid().nullable() }),
          z.object({ where: z.literal("fix now") }),
        ])
        .nullable()
        .default(null),
    }),
  }),
  z.object({ kind: z.literal("merge"), itemId: z.uuid() }),
  z.object({ kind: z.literal("ask"), question: z.string().trim().min(1, "Write what you need to know.").max(5_000) }),
  z.object({ kind: z.literal("park"), until: z.iso.date("Choose the day on which to look at it again.") }),
  z.object({ kind: z.literal("decline"), reason: z.string().trim().min(1, "The requester reads this reason.").max(2_000) }),
]);

export const verdictBody = z.object({
  /** Chosen by the sender; it also names the verdict for undoing it. */
  commandId: z.uuid(),
  /** The version of the report that the triager read. */
  seenVersion: z.number().int().positive(),
  verdict: verdictRequest,
});
export type VerdictBody = z.infer<typeof verdictBody>;

export const answerBody = z.object({ answer: z.string().trim().min(1, "Write your answer first.").max(10_000, "Use at most 10,000 characters.") });

/** A step that the requester takes on their private page. */
export const requesterMoveBody = z.object({ from: z.string().min(1).max(64), to: z.string().min(1).max(64), words: z.string().trim().max(2_000).default("") });
export type RequesterMove = z.infer<typeof requesterMoveBody>;
