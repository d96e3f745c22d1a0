import { z } from "zod";

/** The words after which a commit on main says that items are done, as a project begins. */
export const FIRST_CLOSING_WORDS: readonly string[] = [
  ...["close", "closes", "closed"],
  ...["fix", "fixes", "fixed"],
  ...["resolve", "resolves", "resolved"],
];

export const MOST_CLOSING_WORDS = 30;

/** Words, each once; none at all where no commit is to say so. */
export const closingWordsSchema = z
  .array(
    z
      .string()
      .trim()
      .toLowerCase()
      .regex(/^\p{L}+$/u, "A closing word is one word, of letters alone.")
      .max(30, "A closing word has 30 letters at most."),
  )
  .max(MOST_CLOSING_WORDS, `There are ${MOST_CLOSING_WORDS} closing words at most.`)
  .transform((words) => [...new Set(words)]);

/** What a reader of messages looks for. */
export interface ClosingSyntax {
  words: readonly string[];
  /** How a key is written, as the source of a regular expression without groups that capture. */
  key: string;
}

/** Keys of items, in small letters too. */
export const ITEM_KEY = "[a-z][a-z0-9]{1,9}-\\d{1,9}(?![\\w-])";

/** So much of a message is read. */
const READ = 20_000;

/**
 * What a message says is done: the keys that stand right after a closing word. Several after one
 * word are a list, with commas or "and" between them; a colon may stand behind the word, and "bug",
 * "item" or a number sign before a key. A word with "not" or "never" before it closes nothing.
 * @param message a commit's, of any length; only its beginning is read
 * @returns the keys as they are written, each once, in their order
 * @example closedBy("Fixes TIX-12, TIX-13 and TIX-14", { words: ["fixes"], key: ITEM_KEY })
 */
export function closedBy(message: string, { words, key }: ClosingSyntax): string[] {
  if (words.length === 0) return [];
  const one = `(?:(?:bug|item)\\s?)?#?\\s?(?:${key})`;
  const list = `${one}(?:(?:\\s*,\\s*(?:and\\s+)?|\\s+and\\s+)${one})*`;
  const said = new RegExp(
    `(?<!(?:\\b(?:not|never)|n['’]t)\\s{1,3})(?<![\\p{L}\\p{N}_-])(?:${words.join("|")})(?:\\s*:\\s*|\\s+)(${list})`,
    "giu",
  );
  const keys = new RegExp(key, "giu");
  const found = [...message.slice(0, READ).matchAll(said)].flatMap(([, after]) =>
    [...after.matchAll(keys)].map(([text]) => text),
  );
  return [...new Set(found)];
}
