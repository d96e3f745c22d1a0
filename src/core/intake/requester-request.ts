import { z } from "zod";

/** An answer to a question on the private page. */
export const answerBody = z.object({
  answer: z
    .string()
    .trim()
    .min(1, "Write your answer first.")
    .max(10_000, "Use at most 10,000 characters."),
});

/** A step that the requester takes on their private page. */
export const requesterMoveBody = z.object({
  from: z.string().min(1).max(64),
  to: z.string().min(1).max(64),
  words: z.string().trim().max(2_000).default(""),
});
export type RequesterMove = z.infer<typeof requesterMoveBody>;

/** Somebody else to whom it happened. */
export const followBody = z.object({
  mail: z.email("This is no mail address we could write to.").max(200),
});
