import { LABELLED_PAIRS } from "@demo/words/pairs";
import { mostSimilar, type Text } from "@/core/intake/similarity";

export interface PairFigures {
  threshold: number;
  precision: number;
  recall: number;
}

/**
 * Every text of the labelled pairs is held against all the others, as a new report is held against what is known. Texts with
 * the same problem are those that a pair says so of, directly or through a third; everything else is another problem, the traps
 * among them. Every second problem chooses the threshold, the others tell how good it is.
 */
export function judgeSimilarity(): { chosen: PairFigures; heldOut: PairFigures; traps: PairFigures; among: { first: number; shown: number }; pairs: number } {
  const texts: Text[] = [];
  const problem = new Map<string, number>();
  const idOf = (t: { title: string; body: string }, at: number): string => {
    const known = texts.find((x) => x.title === t.title && x.body === t.body);
    if (known) return known.id;
    const id = `t${texts.length}`;
    texts.push({ id, ...t });
    // The same title is the same problem, told shorter.
    problem.set(id, problem.get(texts.find((x) => x.title === t.title)!.id) ?? at);
    return id;
  };
  const pairs = LABELLED_PAIRS.map((pair, i) => {
    const one = idOf(pair.one, i);
    if (pair.same) problem.set(idOf(pair.other, i), problem.get(one)!);
    return { one, other: idOf(pair.other, 1_000 + i), same: pair.same };
  });
  const scores = new Map(texts.map((t) => [t.id, mostSimilar(t, texts.filter((x) => x.id !== t.id), texts.length, 0)]));
  const figures = (half: number, threshold: number): PairFigures => {
    let [hits, given, wanted] = [0, 0, 0];
    for (const t of texts) {
      const own = problem.get(t.id)!;
      if (own % 2 !== half) continue;
      const found = scores.get(t.id)!.filter((s) => s.score >= threshold);
      given += found.length;
      hits += found.filter((s) => problem.get(s.id) === own).length;
      wanted += texts.filter((x) => x.id !== t.id && problem.get(x.id) === own).length;
    }
    return { threshold, precision: given === 0 ? 1 : hits / given, recall: hits / wanted };
  };
  const f1 = ({ precision: p, recall: r }: PairFigures) => (p + r === 0 ? 0 : (2 * p * r) / (p + r));
  const tried = Array.from({ length: 50 }, (_, i) => figures(0, (i + 1) / 100));
  const chosen = tried.reduce((best, t) => (f1(t) > f1(best) ? t : best));
  const scoreOf = (p: (typeof pairs)[number]) => scores.get(p.one)!.find((s) => s.id === p.other)?.score ?? 0;
  const over = pairs.filter((p) => scoreOf(p) >= chosen.threshold);
  const same = pairs.filter((p) => p.same);
  // What tells of the same problem in the same words is no find.
  const rank = (p: (typeof pairs)[number]) => scores.get(p.one)!.filter((s) => texts.find((t) => t.id === s.id)!.title !== texts.find((t) => t.id === p.one)!.title).findIndex((s) => s.id === p.other);
  return {
    chosen,
    heldOut: figures(1, chosen.threshold),
    traps: { threshold: chosen.threshold, precision: over.filter((p) => p.same).length / over.length, recall: over.filter((p) => p.same).length / same.length },
    among: { first: same.filter((p) => rank(p) === 0).length / same.length, shown: same.filter((p) => rank(p) >= 0 && rank(p) < 6).length / same.length },
    pairs: pairs.length,
  };
}
