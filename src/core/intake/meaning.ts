/*
 * What a text means, as a point that a model gives it: texts of near meaning lie near each other,
 * whatever their words. The core only measures; the points are made in the background, where the
 * model is (server/intake/meanings.ts).
 */

/**
 * A unit vector, each part times 127 and rounded, so that a point takes a byte for each of its
 * dimensions.
 */
export type Meaning = Int8Array;

const SCALE = 127;

/** Rounds a vector to a meaning. @throws RangeError for a vector of no length */
export function meaningOf(vector: readonly number[]): Meaning {
  const length = Math.hypot(...vector);
  if (!(length > 0)) throw new RangeError("a vector without a direction");
  return Int8Array.from(vector, (x) => Math.round((x / length) * SCALE));
}

/**
 * The cosine of the angle between two meanings: 1 for the same, about 0 for what has nothing to do
 * with each other.
 */
export function nearness(a: Meaning, b: Meaning): number {
  let [dot, aa, bb] = [0, 0, 0];
  for (let i = 0; i < a.length; i++) {
    dot += a[i] * b[i];
    aa += a[i] * a[i];
    bb += b[i] * b[i];
  }
  return aa > 0 && bb > 0 ? dot / Math.sqrt(aa * bb) : 0;
}
