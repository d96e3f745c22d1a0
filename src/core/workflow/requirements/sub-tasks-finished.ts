import { refuse } from "../refusal";
import { requirementKind } from "./kind";

export const subTasksFinished = requirementKind({
  title: "all children are finished",
  refused: "children were open",
  parameters: {},
  begins: {},
  editors: {},
  words: () => "all children are finished",
  unmet: (_, { around: { openChildren: open } }) =>
    open === 0
      ? null
      : refuse(
          "sub-tasks open",
          open === 1 ? "One child is not finished." : `${open} children are not finished.`,
          "Finish them first, or close what is not wanted any more.",
        ),
});
