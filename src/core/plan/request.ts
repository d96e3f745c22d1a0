import { z } from "zod";
import { releaseSchema, sprintSchema } from "./sprint";

export const timeboxBody = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("sprint"), sprint: sprintSchema }),
  z.object({ kind: z.literal("release"), release: releaseSchema }),
  z.object({ kind: z.literal("remove sprint"), id: z.string().min(1).max(64) }),
  z.object({ kind: z.literal("remove release"), id: z.string().min(1).max(64) }),
]);
export type TimeboxRequest = z.infer<typeof timeboxBody>;

const timeboxId = z.string().min(1).max(64);

/** Where what is open in a sprint goes when it ends: into another one, or back to the backlog. */
const goesTo = timeboxId.nullable();

export const MOST_EXCEPTIONS = 500;

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
    exceptions: z.array(z.object({ itemId: z.uuid(), to: goesTo })).max(MOST_EXCEPTIONS),
  }),
  z.object({ kind: z.literal("bring back") }),
]);
export type SprintAct = z.infer<typeof sprintActBody>;
