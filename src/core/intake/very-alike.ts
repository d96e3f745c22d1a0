/**
 * From here on two texts are called alike, and are marked at the desk: more often than not they
 * tell of the same problem.
 */
export const ALIKE = 0.4;

/**
 * From here on they are called very alike: nearly the same words and meaning, so that one may merge
 * without reading long. Chosen on labelled pairs.
 */
export const VERY_ALIKE = 0.8;

/** A likeness from 0 to 1 in words. */
export const likenessWords = (score: number): string =>
  score >= VERY_ALIKE ? "very alike" : score >= ALIKE ? "alike" : "a little alike";
