import type { Comparison, Condition } from "@/core/condition/condition";
import type { FactName } from "@/core/condition/facts";
import { factLabel, factsOffered, type Vocabulary } from "@/core/condition/vocabulary";
import { foldCase } from "@/core/formats/fold-case";
import { isGroupable, isSortable, type Sort } from "@/core/item/list/query";
import { filterOf } from "./filter";
import type { NamedCondition } from "./filter-words";
import { suggestions } from "./suggest";

/*
 * What somebody wants to see, as they say it: "urgent, not started, by team".
 */

/** What was understood of it. */
export interface Said {
  /** Parts that all hold. */
  parts: Condition[];
  /** What it is told apart by. */
  by: FactName | null;
  sort: Sort | null;
  /** What was said of which nothing is known but that it may stand in titles. */
  words: string[];
}

/** So much of it is read. */
export const LONGEST_SAID = 300;
const MOST_PHRASES = 12;

const compare = (fact: FactName, op: Comparison["op"], value: Comparison["value"]): Condition => ({
  kind: "compare",
  fact,
  op,
  value,
});

const NOT_FINISHED = compare("stateKind", "is not", "finished");

/** Plain words for how far something is, whose it is and how it fares. */
const PHRASES: readonly [RegExp, Condition][] = [
  [/^(?:not started|to do|not begun)$/, compare("stateKind", "is", "unstarted")],
  [/^(?:in progress|started|under way)$/, compare("stateKind", "one of", ["waiting", "working"])],
  [/^(?:waiting|it waits|waits)$/, compare("stateKind", "is", "waiting")],
  [/^(?:finished|done)$/, compare("stateKind", "is", "finished")],
  [/^(?:not finished|not done|open)$/, NOT_FINISHED],
  [/^(?:mine|my own|my work|my items)$/, compare("assigneeId", "is", { who: "me" })],
  [/^(?:my teams?|of my teams?)$/, compare("teamId", "one of", { who: "my teams" })],
  [/^(?:nobody(?: has it)?|not assigned|nobody's)$/, compare("assigneeId", "is empty", null)],
  [/^(?:blocked|stuck|held up)$/, compare("blocked", "is", true)],
  [/^(?:not blocked)$/, compare("blocked", "is", false)],
  [/^(?:ready|ready for (?:the|its) next step|waits? to be pulled)$/, compare("ready", "is", true)],
  [
    /^(?:late|overdue|past due)$/,
    filterOf([compare("dueOn", "less than", { day: 0 }), NOT_FINISHED]),
  ],
  [
    /^(?:due this week|due soon)$/,
    filterOf([compare("dueOn", "at most", { day: 7 }), NOT_FINISHED]),
  ],
  [/^(?:came back|returned)$/, compare("returns", "at least", 1)],
  [/^(?:not sized|no estimate)$/, compare("estimate", "is empty", null)],
];

const ORDERS: readonly [RegExp, Sort][] = [
  [/^oldest first$/, { fact: "age", descending: true }],
  [/^newest first$/, { fact: "daysSinceCreated", descending: false }],
  [/^most urgent first$/, { fact: "priority", descending: true }],
  [/^largest first$/, { fact: "estimate", descending: true }],
  [/^soonest first$/, { fact: "dueOn", descending: false }],
  [/^longest here first$/, { fact: "daysInState", descending: true }],
];

/** Other words for what items are told apart by. */
const FIELD_WORDS: Record<string, FactName> = {
  person: "assigneeId",
  people: "assigneeId",
  "who has it": "assigneeId",
  class: "classOfService",
  step: "stateId",
  column: "stateId",
  kind: "typeId",
  "due day": "dueOn",
};

/** The field that somebody names, of those that fit. */
function fieldNamed(
  name: string,
  fits: (fact: FactName) => boolean,
  vocabulary: Vocabulary,
): FactName | null {
  const wanted = foldCase(name).trim();
  const known = FIELD_WORDS[wanted];
  if (known && fits(known)) return known;
  const labelled = factsOffered(vocabulary)
    .filter(fits)
    .map((fact) => ({ fact, label: foldCase(factLabel(fact, vocabulary)) }));
  const found =
    labelled.find(({ label }) => label === wanted) ??
    labelled.find(({ label }) => label.startsWith(wanted)) ??
    labelled.find(({ label }) => label.split(/\s+/).includes(wanted));
  return found?.fact ?? null;
}

/** "urgent, not started by team" as its phrases. */
const phrasesOf = (text: string): string[] =>
  text
    .slice(0, LONGEST_SAID)
    .replace(/\bin (?:groups|lanes) by\b/gi, "by")
    .split(/[,;.\n]|\band\b|(?=\b(?:sorted )?by\b)(?<!sorted )/i)
    .map((phrase) => phrase.trim())
    .filter((phrase) => phrase !== "")
    .slice(0, MOST_PHRASES);

/**
 * Reads what somebody wants to see. Phrases stand between commas; each is a plain word, a value of
 * some field, a named condition, "by" a field, or an order. What is nothing of these is looked for in
 * titles.
 */
export function readSaid(
  text: string,
  vocabulary: Vocabulary,
  named: readonly NamedCondition[],
): Said {
  const said: Said = { parts: [], by: null, sort: null, words: [] };
  for (const phrase of phrasesOf(text)) {
    const folded = foldCase(phrase).replace(/^(?:only|the|that are|items) /, "");
    const order = ORDERS.find(([words]) => words.test(folded));
    const sorted = /^sorted by (.+)$/.exec(folded);
    const apart = /^by (.+)$/.exec(folded);
    const plain = PHRASES.find(([words]) => words.test(folded));
    const byField = apart && fieldNamed(apart[1], isGroupable, vocabulary);
    const sortField = sorted && fieldNamed(sorted[1], isSortable, vocabulary);
    if (order) said.sort = order[1];
    else if (sortField) said.sort = { fact: sortField, descending: false };
    else if (byField) said.by = byField;
    else if (plain) said.parts.push(plain[1]);
    else {
      const [first] = suggestions(folded, vocabulary, named);
      if (first?.kind !== "part") said.words.push(phrase);
      else {
        said.parts.push(first.part);
        if (first.note === "words") said.words.push(phrase);
      }
    }
  }
  return said;
}
