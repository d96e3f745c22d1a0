import { wordsOf } from "../parameter";
import { followUpKind } from "./kind";

const LONGEST = 2_000;

export const comment = followUpKind({
  title: "leave a comment",
  parameters: { text: wordsOf(LONGEST) },
  begins: () => ({ text: "Ready for the next step." }),
  editors: { text: { kind: "text", label: "Comment", most: LONGEST } },
  words: ({ text }) => `comments “${text}”`,
  change: ({ text }, item) => item.comment(text),
});
