import { z } from "zod";

const id = z.string().min(1).max(64);

/** Where somebody is at a draft: told while they are there, and once more when they leave. */
export const draftVisitBody = z.object({
  workflowId: id,
  /** The state or the move that they have chosen. */
  chosenId: id.nullable(),
  leaves: z.boolean().default(false),
});
export type DraftVisit = z.infer<typeof draftVisitBody>;

/** Somebody else at the same draft. */
export interface DraftVisitor {
  personId: string;
  name: string;
  chosenId: string | null;
}
