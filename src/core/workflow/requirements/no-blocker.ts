import { refuse } from "../refusal";
import { requirementKind } from "./kind";

export const noBlocker = requirementKind({
  title: "nothing blocks it",
  refused: "it was blocked",
  parameters: {},
  begins: {},
  editors: {},
  words: () => "nothing blocks it",
  unmet: (_, { before }) => {
    const [first] = before.openBlockers;
    if (!first) return null;
    return refuse(
      "blocked",
      `It is blocked: ${first.cause}.`,
      "Lift the blocker first, when it is gone.",
    );
  },
});
