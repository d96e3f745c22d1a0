import { z } from "zod";
import { listWords } from "@/core/formats/list-words";
import { refuse } from "../refusal";
import { OUTCOMES } from "../state";
import { requirementKind } from "./kind";

export const outcome = requirementKind({
  title: "an outcome is named",
  refused: "no outcome was named",
  parameters: { allowed: z.array(z.enum(OUTCOMES)).min(1) },
  begins: { allowed: ["delivered"] },
  editors: { allowed: { kind: "some of", options: OUTCOMES } },
  words: ({ allowed }) => `names an outcome (${allowed.join(", ")})`,
  unmet: ({ allowed }, { after }) =>
    after.outcome !== null && allowed.includes(after.outcome)
      ? null
      : refuse(
          "outcome missing",
          "Finishing names an outcome.",
          `Choose ${listWords(allowed, "or")}.`,
          [{ field: "outcome", label: "Outcome", allowed }],
        ),
});
