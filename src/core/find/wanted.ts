import { parseItemKey, type ItemKey } from "../item/key";

/** So many words are looked for at most, each of so many characters. */
export const MOST_WORDS = 8;
const LONGEST_WORD = 40;

/** The beginning of a key: "tix 12" may become TIX-12, TIX-120 or TIX-1204. */
export interface KeyPart {
  /** Null where only a number was written. */
  prefix: string | null;
  digits: string;
}

/** What somebody looks for. */
export interface Wanted {
  text: string;
  /** In small letters, each once. */
  words: string[];
  key: ItemKey | null;
  keyPart: KeyPart | null;
  /** The beginning of a report's reference, in capital letters. */
  reference: string | null;
}

const KEY_PART = /^(?:([a-z][a-z0-9]{1,9})[- ])?([1-9]\d{0,8})$/i;
const REFERENCE = /^r-[0-9a-z]{1,12}$/i;

/**
 * Reads what was typed to find something.
 * @param typed anything; signs part words and mean nothing else
 */
export function readWanted(typed: string): Wanted {
  const text = typed.trim().replace(/\s+/g, " ");
  const words = text
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word !== "")
    .map((word) => word.slice(0, LONGEST_WORD));
  const [, prefix, digits] = KEY_PART.exec(text) ?? [];
  return {
    text,
    words: [...new Set(words)].slice(0, MOST_WORDS),
    key: parseItemKey(text),
    keyPart: digits ? { prefix: prefix?.toUpperCase() ?? null, digits } : null,
    reference: REFERENCE.test(text) ? text.toUpperCase() : null,
  };
}

/** Numbers of items are below this. */
const NUMBERS_BELOW = 1_000_000_000;

/**
 * All numbers that begin with the same digits, as ranges with both ends in them.
 * @example numbersBeginning("12") // [[12, 12], [120, 129], [1200, 1299], …]
 */
export function numbersBeginning(digits: string): [from: number, to: number][] {
  const ranges: [number, number][] = [];
  for (let from = Number(digits), width = 1; from < NUMBERS_BELOW; from *= 10, width *= 10)
    ranges.push([from, from + width - 1]);
  return ranges;
}
