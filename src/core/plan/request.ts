import { z } from "zod";
import { releaseSchema, sprintSchema } from "./sprint";

export const timeboxBody = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("sprint"), sprint: sprintSchema }),
  z.object({ kind: z.literal("release"), release: releaseSchema }),
  z.object({ kind: z.literal("remove sprint"), id: z.string().min(1).max(64) }),
  z.object({ kind: z.literal("remove release"), id: z.string().min(1).max(64) }),
]);
export type TimeboxRequest = z.infer<typeof timeboxBody>;
