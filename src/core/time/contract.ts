import { z } from "zod";
import { answered, contract } from "@/core/contract/contract";
import type { WeekView } from "./week";

export const timeContract = {
  /** A week of somebody, with what they recorded in it; one's own, and this one, unless said. */
  week: contract({
    method: "GET",
    path: "/api/projects/:key/time",
    query: z.object({
      day: z.iso.date().optional(),
      person: z.string().max(64).optional(),
    }),
    answer: answered<WeekView>(),
    kept: "week",
  }),
};
