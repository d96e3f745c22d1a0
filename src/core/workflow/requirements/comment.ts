import { refuse } from "../refusal";
import { requirementKind } from "./kind";

export const comment = requirementKind({
  title: "a comment is left",
  refused: "no comment was left",
  parameters: {},
  begins: {},
  editors: {},
  words: () => "leaves a comment",
  unmet: (_, { answers }) =>
    answers.comment?.trim()
      ? null
      : refuse(
          "comment missing",
          "This move leaves a comment.",
          "Write what the next person should know.",
          [{ field: "comment", label: "Comment" }],
        ),
});
