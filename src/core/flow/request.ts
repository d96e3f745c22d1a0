import { z } from "zod";
import { CLASSES_OF_SERVICE } from "@/core/item/fields";

export const PERIODS = { "4 weeks": 4, "12 weeks": 12, "26 weeks": 26, "39 weeks": 39 } as const;

export const flowQuery = z.object({
  period: z.enum(["4 weeks", "12 weeks", "26 weeks", "39 weeks"]).catch("12 weeks"),
  type: z.string().max(64).optional(),
  class: z.enum(CLASSES_OF_SERVICE).optional(),
});
export type FlowQuery = z.infer<typeof flowQuery>;

export const bandQuery = z.object({ state: z.string().max(64), day: z.coerce.number().int() });
