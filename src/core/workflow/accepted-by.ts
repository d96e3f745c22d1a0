import { z } from "zod";
import { ENOUGH, ENOUGH_WORDS } from "@/core/ship/acceptance/enough";

/** What a trigger that waits for acceptance and a demand for it leave open: how many have to accept. */
export const ACCEPTED_BY = {
  parameters: { by: z.enum(ENOUGH) },
  begins: { by: "everybody" },
  editors: {
    by: {
      kind: "choice",
      label: "Accepted by",
      options: () => ENOUGH.map((value) => ({ value, label: ENOUGH_WORDS[value] })),
    },
  },
} as const;
