import { followUpKind } from "./kind";

/** A follow-up that leaves nothing open. */
const plain = (title: string, words: string) =>
  followUpKind({ title, parameters: {}, begins: () => ({}), editors: {}, words: () => words });

export const finishDuplicates = plain("finish its duplicates", "finishes its duplicates");
export const reopenDuplicates = plain("reopen its duplicates", "reopens its duplicates");
export const putOnTop = plain("put it on top", "puts it on top");
