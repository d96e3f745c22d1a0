import { MOST_TITLE } from "@/core/item/fields";

/** So many items are made of pasted lines at once at most. */
export const MOST_LINES = 200;

/** Lines that were pasted: each may be an item. */
export interface Lines {
  /** Titles in their order, without what stands in front of a line of a list. */
  titles: string[];
  /** What stands in the way; null: nothing. */
  problem: string | null;
}

/** What a line of a list begins with: a dash, a star, a dot, a number, a box to be ticked. */
const LIST_SIGN = /^\s*(?:[-*•·]|\d{1,3}[.)])?\s*(?:\[[ xX]?\])?\s*/u;

/** Reads titles from lines. Empty lines are none. */
export function linesIn(text: string): Lines {
  const titles = text
    .split(/\r\n|\r|\n/)
    .map((line) => line.replace(LIST_SIGN, "").trim())
    .filter((line) => line !== "");
  return { titles, problem: problemOf(titles) };
}

function problemOf(titles: readonly string[]): string | null {
  if (titles.length > MOST_LINES)
    return `These are ${titles.length.toLocaleString("en")} lines; at most ${MOST_LINES} become items at once. Intake takes in longer lists as a table.`;
  const long = titles.findIndex((title) => title.length > MOST_TITLE);
  return long < 0
    ? null
    : `Line ${long + 1} has ${titles[long].length.toLocaleString("en")} characters; a title has at most ${MOST_TITLE}.`;
}
