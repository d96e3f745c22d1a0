import { refuse } from "../refusal";
import { requirementKind } from "./kind";

export const subTasksFinished = requirementKind({
  title: "all sub-tasks are finished",
  refused: "sub-tasks were open",
  parameters: {},
  begins: {},
  editors: {},
  words: () => "all sub-tasks are finished",
  unmet: (_, { around: { openChildren: open } }) =>
    open === 0
      ? null
      : refuse(
          "sub-tasks open",
          open === 1 ? "One sub-task is not finished." : `${open} sub-tasks are not finished.`,
          "Finish them first, or close what is not wanted any more.",
        ),
});
