const KEY = /\b[A-Z][A-Z0-9]{1,9}-\d{1,9}\b/g;

/** What a reader sees instead of the key of an item that they may not see. */
export const OUTSIDE_WORDS = "an item outside your view";

/** The keys of items in a text. */
export const keysIn = (text: string): string[] => text.match(KEY) ?? [];

/** A sentence that the product wrote, without the keys that its reader must not learn. */
export const maskKeys = (text: string, hidden: ReadonlySet<string>): string =>
  hidden.size === 0 ? text : text.replace(KEY, (key) => (hidden.has(key) ? OUTSIDE_WORDS : key));
