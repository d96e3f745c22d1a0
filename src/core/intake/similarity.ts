/** Word similarity of reports and items: which texts speak of the same thing, and by which words. */

export interface Text {
  id: string;
  title: string;
  body: string;
}

export interface Similar {
  id: string;
  /** From 0, nothing in common, to 1, the same words. */
  score: number;
  /** The shared words that count most, as written in the compared text. */
  words: string[];
}

const STOP_WORDS = new Set(
  ("a about after again all also an and any are as at be because been before but by can cannot could did do does doing done for from " +
    "get gets got had has have he her here him his how i if in into is it its just me more most my no nor not now of off on one only or " +
    "other our out over own she should so some still such than that the their them then there these they this those to too under until up " +
    "very was we were what when where which while who why will with would you your when every each always never").split(" "),
);

/** Titles say what a text is about; descriptions add words that many share. */
const TITLE_SHARE = 0.6;

/** A word without its commonest English endings, so that "scanners", "scanner" and "scanning" meet. */
export function stem(word: string): string {
  let w = word;
  if (w.length > 4 && w.endsWith("ies")) w = w.slice(0, -3) + "y";
  else if (w.length > 4 && /(ss|x|ch|sh)es$/.test(w)) w = w.slice(0, -2);
  else if (w.length > 3 && w.endsWith("s") && !w.endsWith("ss") && !w.endsWith("us")) w = w.slice(0, -1);
  for (const ending of ["ing", "ed", "er", "ly"])
    if (w.length - ending.length >= 3 && w.endsWith(ending)) {
      w = w.slice(0, -ending.length);
      if (/([^aeiouls])\1$/.test(w)) w = w.slice(0, -1);
      break;
    }
  return w.length > 4 && w.endsWith("e") ? w.slice(0, -1) : w;
}

/** The words of a text that carry meaning, stemmed, with the spelling they were found in. */
export function words(text: string): { stem: string; word: string }[] {
  const found = text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];
  return found.filter((w) => w.length > 1 && !STOP_WORDS.has(w)).map((word) => ({ stem: stem(word), word }));
}

interface Vector {
  id: string;
  weights: Map<string, number>;
  spelling: Map<string, string>;
}

function count(id: string, text: string): Vector {
  const weights = new Map<string, number>();
  const spelling = new Map<string, string>();
  for (const { stem: s, word } of words(text)) {
    weights.set(s, (weights.get(s) ?? 0) + 1);
    if (!spelling.has(s)) spelling.set(s, word);
  }
  return { id, weights, spelling };
}

/**
 * The texts most like a given one, best first: cosine of term weights, with the logarithm of term counts and the
 * inverse document frequency log(1 + N/n) over the candidates (Salton and Buckley, "Term-weighting approaches in
 * automatic text retrieval", Information Processing & Management 24 (1988), 513-523). The whole of the given text is
 * held against a candidate's title and against its whole; the title counts for more.
 * @param least scores below it are left out
 */
export function mostSimilar(text: Text, candidates: readonly Text[], most: number, least = 0.1): Similar[] {
  const whole = (t: Text) => `${t.title} ${t.body}`;
  const vectors = candidates.map((c) => ({ title: count(c.id, c.title), whole: count(c.id, whole(c)) }));
  const own = count(text.id, whole(text));
  const documents = new Map<string, number>();
  for (const { weights } of [own, ...vectors.map((v) => v.whole)]) for (const s of weights.keys()) documents.set(s, (documents.get(s) ?? 0) + 1);
  const total = vectors.length + 1;
  const weigh = ({ weights }: Vector): Weighed => {
    const weighed = new Map<string, number>();
    let square = 0;
    for (const [s, n] of weights) {
      const weight = (1 + Math.log(n)) * Math.log(1 + total / documents.get(s)!);
      weighed.set(s, weight);
      square += weight * weight;
    }
    return { weighed, length: Math.sqrt(square) };
  };
  const a = weigh(own);
  return vectors
    .map((vector) => {
      const inWhole = cosine(a, weigh(vector.whole));
      const inTitle = cosine(a, weigh(vector.title));
      const shared = inWhole.shared.sort((x, y) => y[1] - x[1]).slice(0, 4);
      return { id: vector.whole.id, score: TITLE_SHARE * inTitle.cosine + (1 - TITLE_SHARE) * inWhole.cosine, words: shared.map(([s]) => vector.whole.spelling.get(s)!) };
    })
    .filter((s) => s.score >= least)
    .sort((x, y) => y.score - x.score || (x.id < y.id ? -1 : 1))
    .slice(0, most);
}

interface Weighed {
  weighed: Map<string, number>;
  length: number;
}

/** The cosine of the angle between two weighted texts, and what each shared word adds to it. */
function cosine(a: Weighed, b: Weighed): { cosine: number; shared: [string, number][] } {
  const shared: [string, number][] = [];
  for (const [s, weight] of a.weighed) if (b.weighed.has(s)) shared.push([s, weight * b.weighed.get(s)!]);
  const dot = shared.reduce((sum, [, product]) => sum + product, 0);
  return { cosine: a.length && b.length ? dot / (a.length * b.length) : 0, shared };
}
