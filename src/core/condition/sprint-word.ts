/*
 * Sprints that are meant by a word: whichever they are when it is asked. One of them stands for
 * several and is compared as a list is.
 */

export const SPRINT_WORDS = ["current", "next", "previous", "after next", "last three"] as const;
export type SprintWord = (typeof SPRINT_WORDS)[number];

/** Whether a word stands for several sprints. */
export const meansSeveral = (word: SprintWord): boolean => word === "last three";

/** The words that stand for one sprint. */
export const ONE_SPRINT_WORDS = SPRINT_WORDS.filter((word) => !meansSeveral(word));

/** Which sprint each word stands for now; null, or an empty list, where there is none. */
export type SprintsMeant = Record<SprintWord, string | readonly string[] | null>;

/** How a word stands in the text form: `current_sprint`, `last_three_sprints`. */
export const sprintText = (word: SprintWord): string =>
  `${word.replaceAll(" ", "_")}_sprint${meansSeveral(word) ? "s" : ""}`;

const NAMES: Record<SprintWord, string> = {
  current: "the current sprint",
  next: "the next sprint",
  previous: "the previous sprint",
  "after next": "the sprint after next",
  "last three": "the last three sprints",
};

/** What a word is called where it is chosen. */
export const sprintName = (word: SprintWord): string => NAMES[word];

const ENDINGS: Record<SprintWord, string> = {
  current: "the current one",
  next: "the next one",
  previous: "the previous one",
  "after next": "the one after next",
  "last three": "one of the last three",
};

/** The end of a sentence that began with "the sprint is". */
export const sprintEnding = (word: SprintWord): string => ENDINGS[word];
