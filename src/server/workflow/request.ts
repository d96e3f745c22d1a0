import { z } from "zod";

const id = z.string().min(1).max(64);

export const workflowEditBody = z.object({
  workflowId: id,
  /** The version on the page; an edit of an older one is refused. */
  seenVersion: z.number().int().positive(),
  edit: z.discriminatedUnion("kind", [
    z.object({ kind: z.literal("rename state"), stateId: id, name: z.string().max(1_000) }),
    z.object({ kind: z.literal("reorder states"), order: z.array(id).max(1_000) }),
    z.object({
      kind: z.literal("add state"),
      name: z.string().max(1_000),
      stateKind: z.enum(["waiting", "working"]),
      stage: z.string().trim().min(1).max(60).nullable(),
      after: id,
      before: id,
      /** Put it on the board as a column of its own. */
      onBoard: z.boolean(),
    }),
  ]),
});
export type WorkflowEditRequest = z.infer<typeof workflowEditBody>;

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
  .refine((c) => c.min === null || c.max === null || c.min <= c.max, { message: "The minimum is above the maximum.", path: ["min"] });
export type ColumnEditRequest = z.infer<typeof columnEditBody>;
