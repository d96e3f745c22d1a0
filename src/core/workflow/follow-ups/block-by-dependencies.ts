import { followUpKind } from "./kind";

/** What an item waits for becomes what blocks it; each of them once. */
export const blockByDependencies = followUpKind({
  title: "block it by what it waits for",
  parameters: {},
  begins: () => ({}),
  editors: {},
  words: () => "marks it blocked by what it waits for",
  change: (_, item, { waitsFor }) => waitsFor.forEach((other) => item.block(other)),
});
