import { nearness, type Meaning } from "./meaning";
import { opposites } from "./opposite";
import { stem } from "./stem";
import { grams, marks, tokens, words } from "./text-words";
import { NO_RELATIONS, type WordRelations } from "./word-relations";

/** Similarity of reports and items: which texts speak of the same thing, and why. */

export interface Text {
  id: string;
  title: string;
  body: string;
  /** Where it is, if that is said apart. */
  place?: string | null;
  /** What it means, if that was worked out already. */
  meaning?: Meaning | null;
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

interface Compared {
  /** Scores below it are left out. */
  least?: number;
  /** What stands for what in the project. */
  relations?: WordRelations;
}

/**
 * What counts beside the words themselves: runs of letters in them, and what the whole means.
 * Chosen on labelled pairs.
 */
const GRAMS_SHARE = 0.1;
const MEANING_SHARE = 0.4;
/** From here on it is told that two texts mean much the same. */
const SAME_MEANING_FROM = 0.6;
/** What a word counts that the project uses for another one, at most. */
const RELATED = 0.6;

/**
 * A text as it is compared: its words and runs of letters by how often they are there, all its
 * stems, and its marks.
 */
interface Read {
  text: Text;
  whole: Map<string, number>;
  grams: Map<string, number>;
  spelling: Map<string, string>;
  stems: Set<string>;
  marks: Set<string>;
}

function read(text: Text): Read {
  const counted = (of: readonly string[]) => {
    const counts = new Map<string, number>();
    for (const s of of) counts.set(s, (counts.get(s) ?? 0) + 1);
    return counts;
  };
  const all = `${text.title} ${text.body}`;
  const found = words(all);
  const spelling = new Map<string, string>();
  for (const { stem: s, word } of found) if (!spelling.has(s)) spelling.set(s, word);
  return {
    text,
    whole: counted(found.map((w) => w.stem)),
    grams: counted([...new Set(found.map((w) => w.word))].flatMap(grams)),
    spelling,
    stems: new Set(tokens(all).map(stem)),
    marks: marks(all),
  };
}

interface Weighed {
  weights: Map<string, number>;
  length: number;
}

/** Weighs what is counted in texts by how rare it is among them: (1 + ln n) · ln(1 + N/df). */
function weigher(
  texts: readonly ReadonlyMap<string, number>[],
): (counts: ReadonlyMap<string, number>) => Weighed {
  const documents = new Map<string, number>();
  for (const counts of texts)
    for (const s of counts.keys()) documents.set(s, (documents.get(s) ?? 0) + 1);
  return (counts) => {
    const weights = new Map<string, number>();
    let square = 0;
    for (const [s, n] of counts) {
      const weight = (1 + Math.log(n)) * Math.log(1 + texts.length / (documents.get(s) ?? 1));
      weights.set(s, weight);
      square += weight * weight;
    }
    return { weights, length: Math.sqrt(square) };
  };
}

/**
 * The texts most like a given one, best first. Words are compared by the cosine of term weights,
 * with the logarithm of term counts and the inverse document frequency over the candidates (Salton
 * and Buckley, "Term-weighting approaches in automatic text retrieval", Information Processing &
 * Management 24 (1988), 513-523), and so are runs of letters within them; where both meanings are
 * known, their nearness counts as well. Shared error codes and versions, and the same place, bring
 * two texts nearer; different codes and opposite words keep them apart.
 * @param most how many are given back
 */
export function mostSimilar(
  text: Text,
  candidates: readonly Text[],
  most: number,
  { least = 0.1, relations = NO_RELATIONS }: Compared = {},
): Similar[] {
  const [own, ...others] = [text, ...candidates].map(read);
  const everything = [own, ...others];
  const weighWords = weigher(everything.map((r) => r.whole));
  const weighGrams = weigher(everything.map((r) => r.grams));
  const [ownWords, ownGrams] = [weighWords(own.whole), weighGrams(own.grams)];
  return others
    .map((other) => {
      const inWhole = cosine(ownWords, weighWords(other.whole), relations);
      const lexical =
        (1 - GRAMS_SHARE) * inWhole.cosine +
        GRAMS_SHARE * cosine(ownGrams, weighGrams(other.grams)).cosine;
      const near =
        text.meaning && other.text.meaning
          ? Math.max(0, nearness(text.meaning, other.text.meaning))
          : null;
      const shared = inWhole.shared
        .sort((x, y) => y[1] - x[1])
        .slice(0, 4)
        .map(([s]) => other.spelling.get(s)!);
      const { score, reasons } = withMarks(
        near === null ? lexical : MEANING_SHARE * near + (1 - MEANING_SHARE) * lexical,
        own,
        other,
      );
      return {
        id: other.text.id,
        score,
        words: shared,
        reasons: [
          ...(shared.length > 0 ? [`both say: ${shared.join(", ")}`] : []),
          ...(near !== null && near >= SAME_MEANING_FROM ? ["means much the same"] : []),
          ...reasons,
        ],
      };
    })
    .filter((s) => s.score >= least)
    .sort((x, y) => y.score - x.score || (x.id < y.id ? -1 : 1))
    .slice(0, most);
}

const CODE_SHARE = 0.25;
const PLACE_SHARE = 0.08;
const OTHER_CODE = 0.75;
const OPPOSITE = 0.7;

/**
 * What marks and the place say beside the words: shared ones close a part of the distance,
 * different ones open it.
 */
function withMarks(byWords: number, one: Read, other: Read): { score: number; reasons: string[] } {
  const both = [...one.marks].filter((m) => other.marks.has(m));
  const place = (r: Read) => r.text.place?.trim().toLowerCase() ?? "";
  const samePlace = place(one) !== "" && place(one) === place(other);
  let score = byWords;
  if (both.length > 0) score += (1 - score) * CODE_SHARE;
  else if (one.marks.size > 0 && other.marks.size > 0) score *= OTHER_CODE;
  score *= OPPOSITE ** opposites(one.stems, other.stems);
  // A place alone makes no two problems one.
  if (samePlace && byWords > 0) score += (1 - score) * PLACE_SHARE;
  return {
    score,
    reasons: [
      ...(both.length > 0 ? [`same mark: ${both.join(", ")}`] : []),
      ...(samePlace ? [`same place: ${other.text.place}`] : []),
    ],
  };
}

/**
 * The cosine of the angle between two weighted texts, and what each shared word adds to it; related
 * words count for a part.
 */
function cosine(
  a: Weighed,
  b: Weighed,
  relations: WordRelations = NO_RELATIONS,
): { cosine: number; shared: [string, number][] } {
  const shared: [string, number][] = [];
  let related = 0;
  for (const [s, weight] of a.weights) {
    const same = b.weights.get(s);
    if (same !== undefined) shared.push([s, weight * same]);
    else
      for (const [r, strength] of relations.get(s) ?? [])
        if (b.weights.has(r) && !a.weights.has(r))
          related += RELATED * strength * Math.min(weight, b.weights.get(r)!) ** 2;
  }
  const dot = shared.reduce((sum, [, product]) => sum + product, related);
  return { cosine: a.length && b.length ? Math.min(1, dot / (a.length * b.length)) : 0, shared };
}
