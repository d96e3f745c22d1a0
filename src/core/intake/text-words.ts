import { cutText } from "@/core/formats/cut-text";
import { canonical } from "./same-meaning";
import { stem } from "./stem";

/** The words of reports and items, as far as they are compared. */

const STOP_WORDS = new Set(
  (
    "a about after again all also an and any are as at be because been before but by can cannot could did do does doing done for from " +
    "get gets got had has have he her here him his how i if in into is it its just me more most my no nor not now of off on one only or " +
    "other our out over own she should so some still such than that the their them then there these they this those to too under until up " +
    "very was we were what when where which while who why will with would you your when every each always never"
  ).split(" "),
);

/**
 * So much of a text is compared: what it is about is said by then, and long logs pasted below it
 * cost nothing.
 */
const MOST_COMPARED = 1_200;

const TOKEN = /[\p{L}\p{N}]+/gu;
const CODE = /\b(?:[A-Za-z]{1,5}[-_]?\d{2,6}|v?\d+\.\d+(?:\.\d+)*)\b/g;

/** All words of the beginning of a text, in small letters. */
export const tokens = (text: string): string[] =>
  cutText(text, MOST_COMPARED).toLowerCase().match(TOKEN) ?? [];

/** The words of a text that carry meaning, stemmed, with the spelling they were found in. */
export function words(text: string): { stem: string; word: string }[] {
  return tokens(text).flatMap((word) =>
    (word.length > 1 || /\d/.test(word)) && !STOP_WORDS.has(word)
      ? [{ stem: canonical(stem(word)), word }]
      : [],
  );
}

/** Error codes, names with numbers and versions in a text: marks that mean one thing only. */
export function marks(text: string): Set<string> {
  return new Set(
    (cutText(text, MOST_COMPARED).match(CODE) ?? []).map((m) =>
      m.toLowerCase().replace(/^v(?=\d)/, ""),
    ),
  );
}

const GRAM = 4;

/**
 * The runs of letters in a word, its ends marked: "quay" is "_quay", "quay_". Words that are
 * written nearly alike share most of them.
 */
export function grams(word: string): readonly string[] {
  let found = gramsOf.get(word);
  if (!found) {
    const marked = `_${word}_`;
    found =
      marked.length <= GRAM
        ? [marked]
        : Array.from({ length: marked.length - GRAM + 1 }, (_, i) => marked.slice(i, i + GRAM));
    if (gramsOf.size >= MOST_KNOWN) gramsOf.clear();
    gramsOf.set(word, found);
  }
  return found;
}

/** The same words come again and again. */
const gramsOf = new Map<string, readonly string[]>();
const MOST_KNOWN = 20_000;
