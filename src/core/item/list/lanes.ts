import { z } from "zod";
import { lanesSchema } from "@/core/board/lanes-by";
import { namedItems } from "./query";

/** In which lane items stand, where their cards do not say it. */
export const lanesBody = z.object({
  /** Whose items; null: the project's first board. */
  board: z.string().max(64).nullable().default(null),
  lanes: lanesSchema,
  /** Only which of these; null: of all. */
  of: namedItems,
});
export type LanesAsked = z.output<typeof lanesBody>;
