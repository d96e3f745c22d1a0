import { cutText } from "@/core/formats/cut-text";

/** Longer first lines are cut. */
const MOST = 300;

/** What a commit's message says in its first line. @param most so many signs of it */
export const subjectOf = (message: string, most = MOST): string =>
  cutText(message.trimStart().split("\n", 1)[0], most);
