import { z } from "zod";
import { MOST_IN_A_ROW, releaseSchema, sprintSchema } from "./sprint";

export const timeboxBody = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("sprint"), sprint: sprintSchema }),
  /** New ones, one behind the other. */
  z.object({
    kind: z.literal("sprints"),
    sprints: z.array(sprintSchema).min(1).max(MOST_IN_A_ROW),
  }),
  z.object({ kind: z.literal("release"), release: releaseSchema }),
  z.object({ kind: z.literal("remove sprint"), id: z.string().min(1).max(64) }),
  z.object({
    kind: z.literal("remove sprints"),
    ids: z.array(z.string().min(1).max(64)).min(1).max(MOST_IN_A_ROW),
  }),
  z.object({ kind: z.literal("remove release"), id: z.string().min(1).max(64) }),
]);
export type TimeboxRequest = z.infer<typeof timeboxBody>;

const timeboxId = z.string().min(1).max(64);

/** Where what is open in a sprint goes when it ends: into another one, or back to the backlog. */
const goesTo = timeboxId.nullable();

export const MOST_EXCEPTIONS = 500;

/**
 * How something open is split: it goes on with what remains of it, under its key; what is cut off
 * becomes an item of its own in the backlog, where it has a title.
 */
const splitBody = z.object({
  remains: z.number().min(0, "What remains cannot be less than nothing.").max(1_000),
  cutOff: z
    .object({
      title: z.string().trim().min(1, "What is cut off needs a title.").max(200),
      points: z.number().min(0).max(1_000).nullable(),
    })
    .nullable(),
});
export type Split = z.infer<typeof splitBody>;

/** What somebody does with a sprint as it goes. */
export const sprintActBody = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("start") }),
  z.object({
    kind: z.literal("end"),
    /** Whether its goal was reached; null: it had none. */
    reached: z.boolean().nullable(),
    words: z.string().trim().max(2_000),
    /** For everything open in it. */
    to: goesTo,
    /** But for these. */
    exceptions: z
      .array(z.object({ itemId: z.uuid(), to: goesTo, split: splitBody.optional() }))
      .max(MOST_EXCEPTIONS),
  }),
  z.object({ kind: z.literal("bring back") }),
]);
export type SprintAct = z.infer<typeof sprintActBody>;
