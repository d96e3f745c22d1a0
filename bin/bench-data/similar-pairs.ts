import { LABELLED_PAIRS, pair, type LabelledPair } from "@demo/words/pairs";
import { THIRD_SAME, THIRD_TRAPS } from "@demo/words/third-pairs";
import { mostSimilar, type Text } from "@/core/intake/similarity";
import { VERY_ALIKE } from "@/core/intake/very-alike";
import { learnRelations } from "@/core/intake/word-relations";
import { readMeanings } from "@/server/intake/meaning-model";

/**
 * A share with its interval of 95 % (E. B. Wilson, "Probable inference, the law of succession, and
 * statistical inference", Journal of the American Statistical Association 22 (1927), 209-212).
 */
export interface Share {
  hits: number;
  of: number;
  low: number;
  high: number;
}

const Z = 1.96;

function shareOf(hits: number, of: number): Share {
  if (of === 0) return { hits, of, low: 0, high: 1 };
  const p = hits / of;
  const middle = (p + (Z * Z) / (2 * of)) / (1 + (Z * Z) / of);
  const half = (Z * Math.sqrt((p * (1 - p)) / of + (Z * Z) / (4 * of * of))) / (1 + (Z * Z) / of);
  return { hits, of, low: Math.max(0, middle - half), high: Math.min(1, middle + half) };
}

export interface PairFigures {
  queries: number;
  among: number;
  /**
   * How often the one that tells of the same problem is the first shown, and among the six that are
   * shown.
   */
  first: Share;
  six: Share;
  /**
   * Of what is called very alike, how much tells of the same problem; and of all pairs, how many
   * are called so.
   */
  right: Share;
  called: Share;
}

const SHOWN = 6;

/**
 * Each first report of a pair is held against the second ones of all, and against those that tell
 * of another problem with the same things (traps), as a new report is held against what is known.
 * @param learntFrom pairs that the project has merged before
 */
async function judgePairs(
  pairs: readonly LabelledPair[],
  learntFrom: readonly LabelledPair[],
): Promise<PairFigures> {
  const meaningOf = new Map<string, Text["meaning"]>();
  const all = [
    ...new Set(pairs.flatMap((p) => [p.one, p.other]).map((t) => `${t.title}. ${t.body}`)),
  ];
  for (let i = 0; i < all.length; i += 32)
    (await readMeanings(all.slice(i, i + 32))).forEach((m, n) => meaningOf.set(all[i + n], m));
  const read = (t: LabelledPair["one"], id: string): Text => ({
    id,
    ...t,
    meaning: meaningOf.get(`${t.title}. ${t.body}`),
  });
  const known = pairs.map((p, i) => read(p.other, `${i}`));
  const relations = learnRelations(
    learntFrom.filter((p) => p.same).map((p) => [p.one, p.other] as const),
  );
  const counts = { queries: 0, first: 0, six: 0, called: 0, right: 0 };
  for (const [i, { one, same }] of pairs.entries()) {
    if (!same) continue;
    const shown = mostSimilar(read(one, ""), known, SHOWN, { relations });
    const at = shown.findIndex((s) => s.id === `${i}`);
    const called = shown.filter((s) => s.score >= VERY_ALIKE);
    counts.queries += 1;
    if (at === 0) counts.first += 1;
    if (at >= 0) counts.six += 1;
    counts.called += called.length;
    counts.right += called.filter((s) => s.id === `${i}`).length;
  }
  const { queries } = counts;
  return {
    queries,
    among: known.length,
    first: shareOf(counts.first, queries),
    six: shareOf(counts.six, queries),
    right: shareOf(counts.right, counts.called),
    called: shareOf(counts.right, queries),
  };
}

/**
 * The pairs that the parts and the threshold were chosen on, and the set that was written for
 * telling how good it is.
 */
export async function judgeSimilarity(): Promise<{ chosenOn: PairFigures; third: PairFigures }> {
  return {
    chosenOn: await judgePairs(LABELLED_PAIRS, []),
    third: await judgePairs(
      [...THIRD_SAME.map(pair(true)), ...THIRD_TRAPS.map(pair(false))],
      LABELLED_PAIRS,
    ),
  };
}
