import { z } from "zod";
import type { Instant } from "@/core/calendar/instant";

/*
 * The words that a project has agreed on for its items: labels, and the parts of its product. Items
 * hold the words themselves, so one that nobody has described yet is a word like any other; what a
 * project says of a word stands beside it.
 */

export const TERM_KINDS = ["label", "part"] as const;
export type TermKind = (typeof TERM_KINDS)[number];

/** The field of an item that holds words of a kind. */
export const TERM_FIELDS = { label: "labels", part: "parts" } as const satisfies Record<
  TermKind,
  string
>;

export type TermField = (typeof TERM_FIELDS)[TermKind];

/** What one is called, and several. */
export const TERM_WORDS: Record<TermKind, { one: string; several: string }> = {
  label: { one: "label", several: "labels" },
  part: { one: "part of the product", several: "parts of the product" },
};

/** How a label can be drawn: a pennant with a pattern, so that no colour has to carry it alone. */
export const PENNANTS = [
  "plain",
  "half",
  "bar",
  "stripes",
  "cross",
  "dot",
  "corner",
  "arrow",
  "quarters",
  "border",
] as const;
export type Pennant = (typeof PENNANTS)[number];

export const TERM_HUES = [
  "spruce",
  "marigold",
  "madder",
  "ink blue",
  "slate",
  "heather",
  "moss",
  "brick",
] as const;
export type TermHue = (typeof TERM_HUES)[number];

export const LONGEST_TERM = 40;
export const MOST_TERMS_OF_ITEM = 20;
export const MOST_TERMS = 500;

/** A word as it may be given: line ends and doubled blanks are one blank. */
export const termName = z
  .string()
  .transform((name) => name.replace(/\s+/g, " ").trim())
  .pipe(
    z
      .string()
      .min(1, "It needs a name.")
      .max(LONGEST_TERM, `Use at most ${LONGEST_TERM} characters.`),
  );

/** The words of an item, each once. */
export const termsSchema = z
  .array(z.string().trim().min(1).max(LONGEST_TERM))
  .max(MOST_TERMS_OF_ITEM, `Use at most ${MOST_TERMS_OF_ITEM}.`)
  .transform((names) => [...new Set(names)]);

/** What a project says of a word. */
export interface Term {
  kind: TermKind;
  name: string;
  /** What it means; of a part what belongs there. */
  meaning: string;
  sign: Pennant;
  hue: TermHue;
  /** Of a part: who looks after it. */
  ownerId: string | null;
  /** What it was called before, and what was merged into it: whoever says one of these means it. */
  earlier: readonly string[];
  /** Of a part: the places of items that belong to it, as people write them. */
  places: readonly string[];
  /** Since when it is not offered any more; null while it is. */
  endedAt: Instant | null;
}

/** What is said of a word that nobody has described. */
export const PLAIN_TERM: Omit<Term, "kind" | "name"> = {
  meaning: "",
  sign: "plain",
  hue: "slate",
  ownerId: null,
  earlier: [],
  places: [],
  endedAt: null,
};
