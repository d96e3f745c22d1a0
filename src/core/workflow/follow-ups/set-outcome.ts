import { z } from "zod";
import { OUTCOMES } from "../state";
import { followUpKind } from "./kind";

export const setOutcome = followUpKind({
  title: "set the outcome",
  parameters: { outcome: z.enum(OUTCOMES) },
  begins: () => ({ outcome: "delivered" }),
  editors: {
    outcome: {
      kind: "choice",
      label: "Outcome",
      options: () => OUTCOMES.map((outcome) => ({ value: outcome, label: outcome })),
    },
  },
  words: ({ outcome }) => `sets the outcome to ${outcome}`,
  change: ({ outcome }, item) => item.set("outcome", outcome),
});
