/** Similarity of reports and items: which texts speak of the same thing, and why. */

import { opposites } from "./opposite";
import { canonical } from "./same-meaning";

export interface Text {
  id: string;
  title: string;
  body: string;
  /** Where it is, if that is said apart. */
  place?: string | null;
}

export interface Similar {
  id: string;
  /** From 0, nothing in common, to 1, the same words. */
  score: number;
  /** The shared words that count most, as written in the compared text. */
  words: string[];
  /** Why it looks alike, in words. */
  reasons: string[];
}

const STOP_WORDS = new Set(
  ("a about after again all also an and any are as at be because been before but by can cannot could did do does doing done for from " +
    "get gets got had has have he her here him his how i if in into is it its just me more most my no nor not now of off on one only or " +
    "other our out over own she should so some still such than that the their them then there these they this those to too under until up " +
    "very was we were what when where which while who why will with would you your when every each always never").split(" "),
);

/** From here on two texts are called very alike: the threshold that `bin/bench` chooses on labelled pairs, rounded. */
export const VERY_ALIKE = 0.4;

/** Titles say what a text is about; descriptions add words that many share. */
const TITLE_SHARE = 0.3;

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
  return found.filter((w) => (w.length > 1 || /\d/.test(w)) && !STOP_WORDS.has(w)).map((word) => ({ stem: canonical(stem(word)), word }));
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
 * held against a candidate's title and against its whole; the title counts for more. Shared error codes and versions, and the
 * same place, bring two texts nearer; different codes keep them apart.
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
    .map((vector, i) => {
      const inWhole = cosine(a, weigh(vector.whole));
      const inTitle = cosine(a, weigh(vector.title));
      const shared = inWhole.shared.sort((x, y) => y[1] - x[1]).slice(0, 4).map(([s]) => vector.whole.spelling.get(s)!);
      const byWords = TITLE_SHARE * inTitle.cosine + (1 - TITLE_SHARE) * inWhole.cosine;
      const { score, reasons } = withMarks(byWords, text, candidates[i]);
      return { id: vector.whole.id, score, words: shared, reasons: [...(shared.length > 0 ? [`both say: ${shared.join(", ")}`] : []), ...reasons] };
    })
    .filter((s) => s.score >= least)
    .sort((x, y) => y.score - x.score || (x.id < y.id ? -1 : 1))
    .slice(0, most);
}

const CODE = /\b(?:[A-Za-z]{1,5}[-_]?\d{2,6}|v?\d+\.\d+(?:\.\d+)*)\b/g;

/** Error codes, names with numbers and versions in a text: marks that mean one thing only. */
export function marks(text: string): Set<string> {
  return new Set((text.match(CODE) ?? []).map((m) => m.toLowerCase().replace(/^v(?=\d)/, "")));
}

const CODE_SHARE = 0.25;
const PLACE_SHARE = 0.08;
const OTHER_CODE = 0.75;
const OPPOSITE = 0.7;

const stems = (text: Text) => new Set((`${text.title} ${text.body}`.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? []).map(stem));

/** What marks and the place say beside the words: shared ones close a part of the distance, different ones open it. */
function withMarks(byWords: number, one: Text, other: Text): { score: number; reasons: string[] } {
  const [a, b] = [marks(`${one.title} ${one.body}`), marks(`${other.title} ${other.body}`)];
  const both = [...a].filter((m) => b.has(m));
  const samePlace = Boolean(one.place && other.place && one.place.trim().toLowerCase() === other.place.trim().toLowerCase());
  let score = byWords;
  if (both.length > 0) score += (1 - score) * CODE_SHARE;
  else if (a.size > 0 && b.size > 0) score *= OTHER_CODE;
  score *= OPPOSITE ** opposites(stems(one), stems(other));
  // A place alone makes no two problems one.
  if (samePlace && byWords > 0) score += (1 - score) * PLACE_SHARE;
  return { score, reasons: [...(both.length > 0 ? [`same mark: ${both.join(", ")}`] : []), ...(samePlace ? [`same place: ${other.place}`] : [])] };
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
