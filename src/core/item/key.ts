/** An item's key in its parts: `TIX-12` is number 12 under the prefix TIX. */
export interface ItemKey {
  prefix: string;
  number: number;
}

const KEY = /^([A-Z][A-Z0-9]{1,9})-(\d{1,9})$/;
const KEYS = /\b[A-Z][A-Z0-9]{1,9}-\d{1,9}\b/g;

/** Reads a key as people write it, in small letters too; null where it is none. */
export function parseItemKey(text: string): ItemKey | null {
  const [, prefix, number] = KEY.exec(text.trim().toUpperCase()) ?? [];
  return prefix ? { prefix, number: Number(number) } : null;
}

/** The part of a key that says whose it is: "TIX" of "TIX-12". */
export const projectKeyOf = (key: string): string => key.slice(0, key.lastIndexOf("-"));

/** The keys that stand in a text, in capital letters as the product writes them. */
export const keysIn = (text: string): string[] => text.match(KEYS) ?? [];

/** A text with its keys replaced by other words. */
export const replaceKeys = (text: string, words: (key: string) => string): string =>
  text.replace(KEYS, words);
