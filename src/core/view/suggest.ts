import { type Comparison, type Condition, type Operator } from "@/core/condition/condition";
import { parseCel } from "@/core/condition/cel-parse";
import { factOf, type FactName } from "@/core/condition/facts";
import { SPRINT_WORDS } from "@/core/condition/sprint-word";
import { conditionSentence } from "@/core/condition/sentence";
import { foldCase } from "@/core/formats/fold-case";
import {
  factLabel,
  factsOffered,
  factUnit,
  optionsOf,
  type Vocabulary,
} from "@/core/condition/vocabulary";
import { peopleByTrade } from "@/core/people/trade";
import { choosing, type ChoiceValue } from "./filter";
import { choiceWords, type NamedCondition } from "./filter-words";

/** What can be taken up into a filter: a part of it, or a field of which a value is still to come. */
export type Suggestion = { label: string; note: string } & (
  { kind: "part"; part: Condition } | { kind: "field"; fact: FactName }
);

const MOST = 30;

/** How well a label fits what was typed; null where it does not. */
function fit(label: string, typed: string): number | null {
  const folded = foldCase(label);
  if (folded === typed) return 0;
  if (folded.startsWith(typed)) return 1;
  return folded.split(/\s+/).some((word) => word.startsWith(typed)) ? 2 : null;
}

interface Ranked {
  suggestion: Suggestion;
  rank: number;
}

/** The words for somebody or some sprint that a fact can be compared with. */
function wordsOf(fact: FactName): ChoiceValue[] {
  const { options, nullable } = factOf(fact);
  const none = nullable ? [null] : [];
  if (options === "people") return [{ who: "me" }, ...none];
  if (options === "teams") return [{ who: "my teams" }, ...none];
  if (options === "sprints") return [...SPRINT_WORDS.map((sprint) => ({ sprint })), ...none];
  return none;
}

/** All that can be chosen of a choice: words first, then what the project has. */
export function choicesOffered(fact: FactName, vocabulary: Vocabulary): ChoiceValue[] {
  return [...wordsOf(fact), ...optionsOf(fact, vocabulary).map((option) => option.id)];
}

const compare = (fact: FactName, op: Operator, value: Comparison["value"]): Condition => ({
  kind: "compare",
  fact,
  op,
  value,
});

/** The values of a field that fit what was typed. */
function valuesOf(fact: FactName, typed: string, vocabulary: Vocabulary): Ranked[] {
  const field = factLabel(fact, vocabulary);
  const { kind } = factOf(fact);
  if (kind === "choice")
    return choicesOffered(fact, vocabulary).flatMap((value) => {
      const words = choiceWords(fact, value, vocabulary);
      const rank = fit(words.replace(/^the /, ""), typed);
      const part = choosing({ fact, values: [value] })!;
      return rank === null ? [] : ranked(rank, { kind: "part", part, label: words, note: field });
    });
  if (kind === "set")
    return optionsOf(fact, vocabulary).flatMap((option) => {
      const rank = fit(option.label, typed);
      const part = compare(fact, "contains", option.id);
      return rank === null
        ? []
        : ranked(rank, { kind: "part", part, label: option.label, note: field });
    });
  return [];
}

/** Everybody of a trade, in place of one of them: "tester". */
function tradesOf(fact: FactName, typed: string, vocabulary: Vocabulary): Ranked[] {
  if (factOf(fact).options !== "people" || factOf(fact).kind !== "choice") return [];
  const people = vocabulary.people.map(({ id, trades = [] }) => ({ id, trades }));
  return peopleByTrade(people).flatMap(({ trade, ids }) => {
    const rank = fit(trade, typed);
    const part = choosing({ fact, values: ids })!;
    const label = `${trade}: ${conditionSentence(part, vocabulary)}`;
    const note = factLabel(fact, vocabulary);
    return rank === null ? [] : ranked(rank, { kind: "part", part, label, note });
  });
}

const ranked = (rank: number, suggestion: Suggestion): Ranked[] => [{ suggestion, rank }];

/** A field, and of a flag its two answers. */
function fieldsFor(fact: FactName, typed: string, vocabulary: Vocabulary): Ranked[] {
  const label = factLabel(fact, vocabulary);
  const rank = fit(label, typed);
  if (rank === null) return [];
  if (factOf(fact).kind !== "flag")
    return ranked(rank + 0.5, { kind: "field", fact, label: `${label} …`, note: "a field" });
  return [true, false].flatMap((yes) => {
    const part = compare(fact, "is", yes);
    return ranked(rank, {
      kind: "part",
      part,
      label: conditionSentence(part, vocabulary),
      note: "yes or no",
    });
  });
}

/** A number behind the name of a field: "age 5" is at least or at most so much. */
function amounts(fact: FactName, typed: string, vocabulary: Vocabulary): Ranked[] {
  if (factOf(fact).kind !== "number") return [];
  const label = foldCase(factLabel(fact, vocabulary));
  const [, before, number] = /^(\D+) (\d+(?:\.\d+)?)$/.exec(typed) ?? [];
  if (number === undefined || !label.startsWith(before)) return [];
  return (["at least", "at most", "is"] as const).flatMap((op) => {
    const part = compare(fact, op, Number(number));
    const note = factUnit(fact, vocabulary) || "a number";
    return ranked(0.5, { kind: "part", part, label: conditionSentence(part, vocabulary), note });
  });
}

/** Behind the name of a field stand its values: "assignee ru". */
function behindField(fact: FactName, typed: string, vocabulary: Vocabulary): Ranked[] {
  const label = foldCase(factLabel(fact, vocabulary));
  if (!typed.startsWith(`${label} `)) return [];
  const value = typed.slice(label.length + 1).trim();
  const values = [...valuesOf(fact, value, vocabulary), ...tradesOf(fact, value, vocabulary)];
  // The field was said, so it is meant.
  return values.map(({ suggestion, rank }) => ({ suggestion, rank: rank - 1 }));
}

/** What was typed as a whole condition, where it is one. */
function asCondition(text: string, vocabulary: Vocabulary): Ranked[] {
  if (!/[=<>!]|\b(?:and|or|not|in)\b/i.test(text)) return [];
  const { condition } = parseCel(text, vocabulary);
  return condition === null
    ? []
    : ranked(-1, {
        kind: "part",
        part: condition,
        label: conditionSentence(condition, vocabulary),
        note: "a condition",
      });
}

/** Words in the title; what Enter takes where no value begins so. */
const asWords = (text: string): Ranked[] =>
  ranked(1.2, {
    kind: "part",
    part: compare("title", "contains", text),
    label: `“${text}” in the title`,
    note: "words",
  });

/**
 * What somebody may mean by what they have typed so far, best first: a value of any field, a field, a
 * named condition, a whole condition in words or signs, or words in the title. Without a text: the
 * named conditions and all fields.
 */
export function suggestions(
  text: string,
  vocabulary: Vocabulary,
  named: readonly NamedCondition[],
): Suggestion[] {
  const written = text.trim();
  const typed = foldCase(written);
  const facts = factsOffered(vocabulary);
  const byName = named.flatMap(({ name, condition }) => {
    const rank = fit(name, typed);
    return rank === null
      ? []
      : ranked(rank - 0.1, { kind: "part", part: condition, label: name, note: "named condition" });
  });
  if (typed === "")
    return [...byName, ...facts.flatMap((fact) => fieldsFor(fact, "", vocabulary))].map(
      ({ suggestion }) => suggestion,
    );
  const found = [
    ...asCondition(written, vocabulary),
    ...byName,
    ...facts.flatMap((fact) => [
      ...valuesOf(fact, typed, vocabulary),
      ...tradesOf(fact, typed, vocabulary),
      ...fieldsFor(fact, typed, vocabulary),
      ...behindField(fact, typed, vocabulary),
      ...amounts(fact, typed, vocabulary),
    ]),
    ...asWords(written),
  ];
  return found
    .sort((a, b) => a.rank - b.rank)
    .slice(0, MOST)
    .map(({ suggestion }) => suggestion);
}
