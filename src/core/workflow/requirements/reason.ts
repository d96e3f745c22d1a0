import { refuse } from "../refusal";
import { requirementKind } from "./kind";

export const reason = requirementKind({
  title: "a reason is given",
  refused: "no reason was given",
  parameters: {},
  begins: {},
  editors: {},
  words: () => "says why",
  unmet: (_, { answers }) =>
    answers.reason?.trim()
      ? null
      : refuse(
          "reason missing",
          "This move says why.",
          "Write a sentence that helps the next person.",
          [{ field: "reason", label: "Why?" }],
        ),
});
