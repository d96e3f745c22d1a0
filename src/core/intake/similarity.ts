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

const TOKEN = /[\p{L}\p{N}]+/gu;

/** The words of a text that carry meaning, stemmed, with the spelling they were found in. */
export function words(text: string, stemOf: (word: string) => string = stem): { stem: string; word: string }[] {
  const found = text.toLowerCase().match(TOKEN) ?? [];
  return found.filter((w) => (w.length > 1 || /\d/.test(w)) && !STOP_WORDS.has(w)).map((word) => ({ stem: canonical(stemOf(word)), word }));
}

/** A text as it is compared: its words by weight, all its stems, and its marks. */
interface Vector {
  text: Text;
  title: Map<string, number>;
  whole: Map<string, number>;
  spelling: Map<string, string>;
  stems: Set<string>;
  marks: Set<string>;
}

/** Reads texts; the same word is stemmed once for all of them. */
function reader(): (text: Text) => Vector {
  const known = new Map<string, string>();
  const stemOf = (word: string) => {
    let s = known.get(word);
    if (s === undefined) known.set(word, (s = stem(word)));
    return s;
  };
  return (text) => {
    const [title, whole, spelling] = [new Map<string, number>(), new Map<string, number>(), new Map<string, string>()];
    const add = (weights: Map<string, number>, s: string) => weights.set(s, (weights.get(s) ?? 0) + 1);
    for (const { stem: s } of words(text.title, stemOf)) add(title, s);
    const all = `${text.title} ${text.body}`;
    for (const { stem: s, word } of words(all, stemOf)) {
      add(whole, s);
      if (!spelling.has(s)) spelling.set(s, word);
    }
    return { text, title, whole, spelling, stems: new Set((all.toLowerCase().match(TOKEN) ?? []).map(stemOf)), marks: marks(all) };
  };
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
  const read = reader();
  const vectors = candidates.map(read);
  const own = read(text);
  const documents = new Map<string, number>();
  for (const { whole } of [own, ...vectors]) for (const s of whole.keys()) documents.set(s, (documents.get(s) ?? 0) + 1);
  const total = vectors.length + 1;
  const weigh = (weights: ReadonlyMap<string, number>): Weighed => {
    const weighed = new Map<string, number>();
    let square = 0;
    for (const [s, n] of weights) {
      const weight = (1 + Math.log(n)) * Math.log(1 + total / documents.get(s)!);
      weighed.set(s, weight);
      square += weight * weight;
    }
    return { weighed, length: Math.sqrt(square) };
  };
  const a = weigh(own.whole);
  return vectors
    .map((vector) => {
      const inWhole = cosine(a, weigh(vector.whole));
      const inTitle = cosine(a, weigh(vector.title));
      const shared = inWhole.shared.sort((x, y) => y[1] - x[1]).slice(0, 4).map(([s]) => vector.spelling.get(s)!);
      const byWords = TITLE_SHARE * inTitle.cosine + (1 - TITLE_SHARE) * inWhole.cosine;
      const { score, reasons } = withMarks(byWords, own, vector);
      return { id: vector.text.id, score, words: shared, reasons: [...(shared.length > 0 ? [`both say: ${shared.join(", ")}`] : []), ...reasons] };
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

/** What marks and the place say beside the words: shared ones close a part of the distance, different ones open it. */
function withMarks(byWords: number, one: Vector, other: Vector): { score: number; reasons: string[] } {
  const both = [...one.marks].filter((m) => other.marks.has(m));
  const place = (v: Vector) => v.text.place?.trim().toLowerCase() ?? "";
  const samePlace = place(one) !== "" && place(one) === place(other);
  let score = byWords;
  if (both.length > 0) score += (1 - score) * CODE_SHARE;
  else if (one.marks.size > 0 && other.marks.size > 0) score *= OTHER_CODE;
  score *= OPPOSITE ** opposites(one.stems, other.stems);
  // A place alone makes no two problems one.
  if (samePlace && byWords > 0) score += (1 - score) * PLACE_SHARE;
  return { score, reasons: [...(both.length > 0 ? [`same mark: ${both.join(", ")}`] : []), ...(samePlace ? [`same place: ${other.text.place}`] : [])] };
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
