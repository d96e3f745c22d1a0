import type { Condition } from "@/core/condition/condition";
import { noneWords } from "@/core/item/list/value-words";
import { conditionSentence } from "@/core/condition/sentence";
import { factLabel, labelOf, type Vocabulary } from "@/core/condition/vocabulary";
import { sprintName } from "@/core/condition/sprint-word";
import type { FactName } from "@/core/condition/facts";
import { chosenIn, samePart, type ChoiceValue } from "./filter";

/** A condition that a project has given a name. */
export interface NamedCondition {
  id: string;
  name: string;
  condition: Condition;
}

/** A part of a filter in words: a field with what is chosen of it, or a sentence. */
export interface PartWords {
  /** Of a choice: its field. */
  field: string | null;
  words: string;
}

/** A value that can be chosen, in words. */
export function choiceWords(fact: FactName, value: ChoiceValue, vocabulary: Vocabulary): string {
  if (value === null) return noneWords(fact);
  if (typeof value === "string") return labelOf(fact, value, vocabulary);
  return "who" in value ? value.who : sprintName(value.sprint);
}

/** Some of this, that or the other. */
const either = (words: readonly string[]): string =>
  words.length < 2 ? words.join("") : `${words.slice(0, -1).join(", ")} or ${words.at(-1)}`;

/**
 * A part of a filter in words.
 * @param named conditions of the project, which are called by their names
 */
export function partWords(
  part: Condition,
  vocabulary: Vocabulary,
  named: readonly NamedCondition[] = [],
): PartWords {
  const known = named.find(({ condition }) => samePart(condition, part));
  if (known) return { field: null, words: known.name };
  const chosen = chosenIn(part);
  if (!chosen) return { field: null, words: conditionSentence(part, vocabulary) };
  const { fact, values } = chosen;
  return {
    field: factLabel(fact, vocabulary),
    words: either(values.map((value) => choiceWords(fact, value, vocabulary))),
  };
}

/** A part of a filter as one text. */
export function partText(...told: Parameters<typeof partWords>): string {
  const { field, words } = partWords(...told);
  return field === null ? words : `${field} ${words}`;
}
