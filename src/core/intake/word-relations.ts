import { words } from "./text-words";

/**
 * Which words stand for which in a project, from 0 to 1: what one report calls so another calls
 * otherwise.
 */
export type WordRelations = ReadonlyMap<string, ReadonlyMap<string, number>>;

export const NO_RELATIONS: WordRelations = new Map();

interface Told {
  title: string;
  body: string;
}

/**
 * Words must have stood for each other in so many merged pairs, and in so large a share of those
 * that have either.
 */
const LEAST_PAIRS = 2;
const LEAST_SHARE = 0.25;

/**
 * Learns from pairs of texts that people found to be about the same problem: a word that one text
 * has and the other has not, against each word of which the opposite is true. How strongly two are
 * related is the Dice coefficient of the pairs that have the one and those that have the other (L.
 * R. Dice, "Measures of the amount of ecologic association between species", Ecology 26 (1945),
 * 297-302).
 */
export function learnRelations(pairs: readonly (readonly [Told, Told])[]): WordRelations {
  const together = new Map<string, Map<string, number>>();
  const alone = new Map<string, number>();
  const add = (from: string, to: string) => {
    const known = together.get(from) ?? new Map<string, number>();
    together.set(from, known.set(to, (known.get(to) ?? 0) + 1));
  };
  for (const pair of pairs) {
    const [one, other] = pair.map(
      ({ title, body }) => new Set(words(`${title} ${body}`).map((w) => w.stem)),
    );
    const [left, right] = [
      [...one].filter((s) => !other.has(s)),
      [...other].filter((s) => !one.has(s)),
    ];
    for (const s of [...left, ...right]) alone.set(s, (alone.get(s) ?? 0) + 1);
    for (const a of left)
      for (const b of right) {
        add(a, b);
        add(b, a);
      }
  }
  const related = new Map<string, Map<string, number>>();
  for (const [a, partners] of together) {
    const kept = [...partners].flatMap(([b, n]): [string, number][] => {
      const share = (2 * n) / (alone.get(a)! + alone.get(b)!);
      return n >= LEAST_PAIRS && share >= LEAST_SHARE ? [[b, share]] : [];
    });
    if (kept.length > 0) related.set(a, new Map(kept));
  }
  return related;
}
