import { z } from "zod";

/** So many notices are shown at once. */
export const NOTICES_SHOWN = 50;

export const readBody = z.object({
  ids: z.array(z.number().int().positive()).min(1).max(NOTICES_SHOWN),
});
