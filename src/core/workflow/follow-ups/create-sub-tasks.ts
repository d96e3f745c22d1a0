import { z } from "zod";
import { wordsOf } from "../parameter";
import { followUpKind } from "./kind";

const MOST = 20;
const LONGEST = 300;
const FIRST: string[] = ["Tell whoever waits for it"];

export const createSubTasks = followUpKind({
  title: "make children",
  parameters: { titles: z.array(wordsOf(LONGEST)).min(1).max(MOST) },
  begins: () => ({ titles: FIRST }),
  editors: {
    titles: {
      kind: "lines",
      label: "Titles of the children, one a line",
      most: MOST,
      each: LONGEST,
    },
  },
  words: ({ titles }) =>
    titles.length === 1 ? `makes the child “${titles[0]}”` : `makes ${titles.length} children`,
});
