import { replaceKeys } from "./key";

/** What a reader sees instead of the key of an item that they may not see. */
export const OUTSIDE_WORDS = "an item outside your view";

/** A sentence that the product wrote, without the keys that its reader must not learn. */
export const maskKeys = (text: string, hidden: ReadonlySet<string>): string =>
  hidden.size === 0 ? text : replaceKeys(text, (key) => (hidden.has(key) ? OUTSIDE_WORDS : key));
