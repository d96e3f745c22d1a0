import { z } from "zod";
import { workflowSchema } from "@/core/workflow/definition";

const id = z.string().min(1).max(64);
const revision = z.number().int().min(0);

/** A draft as the page has it, and the revision that the page has read last. */
export const draftBody = z.object({
  workflowId: id,
  seenRevision: revision,
  /** The published version that the page's draft was begun from. */
  baseVersion: z.number().int().positive(),
  definition: workflowSchema,
});
export type DraftRequest = z.infer<typeof draftBody>;

export const discardBody = z.object({ workflowId: id, seenRevision: revision });

export const publishBody = z.object({
  workflowId: id,
  seenRevision: revision,
  /** For each state that goes and has items: where they go. */
  newStates: z.record(id, id).default({}),
  note: z.string().max(500).default(""),
});
export type PublishRequest = z.infer<typeof publishBody>;

export const versionQuery = z.object({ workflow: id, version: z.coerce.number().int().positive() });

const limit = z.number().int().min(0).max(10_000).nullable();

export const columnEditBody = z
  .object({
    columnId: id,
    seenVersion: z.number().int().positive(),
    min: limit,
    max: limit,
    minFirm: z.boolean(),
    maxFirm: z.boolean(),
  })
  .refine((c) => c.min === null || c.max === null || c.min <= c.max, {
    message: "The minimum is above the maximum.",
    path: ["min"],
  });
export type ColumnEditRequest = z.infer<typeof columnEditBody>;
