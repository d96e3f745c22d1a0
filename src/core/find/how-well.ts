/**
 * How well something fits what was looked for; less is better.
 * - 0: it is called so, or that is its key
 * - 1: its name or key begins so
 * - 2: each word begins a word of its name
 * - 3: each word stands somewhere in its name
 * - 4: the words stand in its text
 */
export type Fit = 0 | 1 | 2 | 3 | 4;

const escaped = (word: string): string => word.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");

const begins = (word: string, name: string): boolean =>
  new RegExp(`(?<![\\p{L}\\p{N}])${escaped(word)}`, "u").test(name);

/**
 * How well a name fits; null where a word is not in it.
 * @param words in small letters, as `readWanted` gives them; without any nothing fits
 */
export function howWell(words: readonly string[], name: string): Fit | null {
  const small = name.toLowerCase();
  const text = words.join(" ");
  if (words.length === 0 || !words.every((word) => small.includes(word))) return null;
  if (small === text) return 0;
  if (small.startsWith(text)) return 1;
  return words.every((word) => begins(word, small)) ? 2 : 3;
}

/**
 * Those that fit, the best first; of the same fit in the order in which they were given.
 * @param namesOf all that one of them is called; the one that fits best counts
 */
export function bestOf<T>(
  words: readonly string[],
  all: readonly T[],
  namesOf: (one: T) => readonly string[],
): (T & { fit: Fit })[] {
  return all
    .flatMap((one) => {
      const fits = namesOf(one).flatMap((name) => howWell(words, name) ?? []);
      return fits.length > 0 ? [{ ...one, fit: Math.min(...fits) as Fit }] : [];
    })
    .toSorted((a, b) => a.fit - b.fit);
}
