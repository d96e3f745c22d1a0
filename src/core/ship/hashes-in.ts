/** What may be the hash of a commit, by its signs alone. */
export const HASH = /\b[0-9a-f]{7,40}\b/g;
/** A text names so many at most; the others are words. */
const MOST = 50;

/**
 * What in a text may be the hash of a commit, shortened or whole: at least seven hexadecimal signs with
 * a figure and a letter among them, as they are written. Which of them are, only a repository knows.
 */
export const hashesIn = (text: string): string[] =>
  [...new Set(text.match(HASH) ?? [])]
    .filter((word) => /\d/.test(word) && /[a-f]/.test(word))
    .slice(0, MOST);
