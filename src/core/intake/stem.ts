import { newStemmer } from "snowball-stemmers";

/*
 * The English stemmer of the Snowball project (M. F. Porter, "Snowball: a language for stemming
 * algorithms", 2001), the same one that the database uses for its word index.
 */
const english = newStemmer("english");

const known = new Map<string, string>();
const MOST_KNOWN = 50_000;

/**
 * The stem of a word, so that "refused", "refuses" and "refusing" meet. @param word in small
 * letters
 */
export function stem(word: string): string {
  let found = known.get(word);
  if (found === undefined) {
    if (known.size >= MOST_KNOWN) known.clear();
    known.set(word, (found = english.stem(word)));
  }
  return found;
}
