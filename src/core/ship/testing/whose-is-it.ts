import type { Instant } from "@/core/calendar/instant";
import { listWords } from "@/core/formats/list-words";
import { words } from "@/core/intake/text-words";

/*
 * Whose is a step that fails? What was merged since the last pass can have broken it; what was made for the
 * same item, is about the same part, or speaks of the same things the more so.
 */

/** What was merged together since the case passed last. */
export interface MergedWork {
  /** The change, or the commit where none is known. */
  id: string;
  words: string;
  url: string | null;
  /** The item it belongs to, where whoever looks may see it. */
  item: { id: string; key: string; title: string; parts: readonly string[] } | null;
  author: { id: string | null; name: string };
  mergedAt: Instant;
}

/** Somebody whose work a failing step may be, and why they. */
export interface Suspect extends MergedWork {
  /** In words, the strongest first. */
  evidence: string[];
}

export interface FailingStep {
  /** The item that is tested. */
  itemId: string | null;
  /** The parts of the product that the case or the item is about. */
  parts: readonly string[];
  /** What is done, expected and seen. */
  text: string;
  /** Whether its case has passed before. */
  passedBefore: boolean;
}

/** So many are offered. */
const OFFERED = 3;
const WEIGHT = { item: 5, part: 2, word: 1 };
const MOST_WORDS = 3;

/** The words of a text that carry meaning, as they are spelt, by what they have in common. */
const wordsIn = (text: string): Map<string, string> =>
  new Map(words(text).map(({ stem, word }) => [stem, word]));

/**
 * Whose a failing step may be, the likeliest first. Among those that nothing speaks for, what was merged
 * last is the likeliest, as it is what is new.
 * @param works what was merged since the last pass; without one, what was merged last
 */
export function suspectsOf(step: FailingStep, works: readonly MergedWork[]): Suspect[] {
  const spoken = wordsIn(step.text);
  return works
    .map((work) => weigh(step, spoken, work))
    .toSorted((a, b) => b.weight - a.weight || b.suspect.mergedAt - a.suspect.mergedAt)
    .slice(0, OFFERED)
    .map(({ suspect }) => suspect);
}

function weigh(step: FailingStep, spoken: ReadonlyMap<string, string>, work: MergedWork) {
  const { item } = work;
  const ofItem = item !== null && item.id === step.itemId;
  const parts = (item?.parts ?? []).filter((part) => step.parts.includes(part));
  const said = wordsIn(`${work.words} ${item?.title ?? ""}`);
  const shared = [...said.keys()].flatMap((stem) => spoken.get(stem) ?? []).slice(0, MOST_WORDS);
  const evidence = [
    ofItem && `made for ${item.key}`,
    parts.length > 0 && `also about ${listWords(parts, "and")}`,
    shared.length > 0 && `speaks of ${listWords(shared, "and")}`,
    step.passedBefore ? "merged since it passed last" : "merged lately, it has not passed yet",
  ].filter((part) => part !== false);
  const weight =
    (ofItem ? WEIGHT.item : 0) + (parts.length > 0 ? WEIGHT.part : 0) + shared.length * WEIGHT.word;
  return { weight, suspect: { ...work, evidence } };
}
