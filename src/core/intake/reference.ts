/*
 * The reference of a report: what its requester says on the phone and writes in a mail. Six letters
 * and digits are drawn for a new one; shorter ones are older.
 */
const REFERENCE = "R-[0-9A-Z]{5,6}";
const NAMED = new RegExp(`\\b${REFERENCE}\\b`, "g");
const IN_BRACKETS = new RegExp(`\\(${REFERENCE}\\)$`, "i");

/** So many references of one text are looked at. */
const MOST = 5;

/** The references that a text names, in upper case, each once; of very many only the first. */
export const referencesIn = (text: string): string[] =>
  [...new Set(text.toUpperCase().match(NAMED) ?? [])].slice(0, MOST);

/** A text without the reference in brackets that it ends with. */
export const withoutReference = (text: string): string => text.replace(IN_BRACKETS, "").trimEnd();
