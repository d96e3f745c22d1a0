import { z } from "zod";
import { PENNANTS, TERM_HUES, TERM_KINDS, termName } from "./term";

/*
 * What leads do to the words of a project. A word is named by what it is called now; what nobody
 * has described yet is described by the first change.
 */

const of = { of: z.enum(TERM_KINDS), name: termName };

export const termEditBody = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("describe"),
    ...of,
    meaning: z.string().trim().max(500, "Use at most 500 characters.").optional(),
    sign: z.enum(PENNANTS).optional(),
    hue: z.enum(TERM_HUES).optional(),
    ownerId: z.string().min(1).max(64).nullable().optional(),
    places: z.array(z.string().trim().min(1).max(200)).max(200).optional(),
  }),
  z.object({ kind: z.literal("rename"), ...of, to: termName }),
  /** All that say the one say the other from then on. */
  z.object({ kind: z.literal("merge"), ...of, into: termName }),
  /** Not offered any more; items keep it. */
  z.object({ kind: z.literal("end"), ...of }),
  z.object({ kind: z.literal("bring back"), ...of }),
  /** Those of the set to begin with that are not there yet. */
  z.object({ kind: z.literal("begin with"), of: z.enum(TERM_KINDS) }),
]);
export type TermEdit = z.output<typeof termEditBody>;
