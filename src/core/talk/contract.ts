import { z } from "zod";
import { contract, DONE } from "@/core/contract/contract";
import { COMMENT_SIGNS } from "./comment";

export const signBody = z.object({
  commentId: z.uuid(),
  sign: z.enum(COMMENT_SIGNS),
  on: z.boolean(),
});

export const emptyBody = z.object({
  commandId: z.uuid(),
  commentId: z.uuid(),
  why: z.string().trim().min(1, "Say why it goes.").max(500),
});

export const talkContract = {
  /** Notes that one looked at an item's talk and history now. */
  look: contract({ method: "POST", path: "/api/items/:key/look", answer: DONE }),
  /** Puts a sign to a comment, or takes it away. */
  sign: contract({ method: "POST", path: "/api/items/:key/signs", body: signBody, answer: DONE }),
  /** Removes what a comment says, and ever said, for good. */
  empty: contract({
    method: "POST",
    path: "/api/items/:key/emptied",
    body: emptyBody,
    answer: DONE,
  }),
};
