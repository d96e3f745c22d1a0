import type { Comparison, Condition, ConditionValue } from "@/core/condition/condition";
import { factOf, type FactName } from "@/core/condition/facts";
import { simplify } from "@/core/condition/simplify";
import { meansSeveral } from "@/core/condition/sprint-word";

/*
 * A filter as a line of parts that all hold. A part that chooses among the values of one field is
 * told apart from the others, because several of its values mean any of them.
 */

/** The parts of a filter; none where it lets everything through. */
export function filterParts(filter: Condition): Condition[] {
  const simple = simplify(filter);
  return simple.kind === "all" ? simple.of : [simple];
}

/** The parts as one condition. */
export const filterOf = (parts: readonly Condition[]): Condition =>
  parts.length === 1 ? parts[0] : { kind: "all", of: [...parts] };

/** Whether a filter leaves anything out. */
export const isFiltering = (filter: Condition): boolean => filterParts(filter).length > 0;

/** A value that can be chosen: an id or a word, somebody or a sprint by a word, or null for none. */
export type ChoiceValue = Extract<
  ConditionValue,
  string | { who: string } | { sprint: string }
> | null;

export interface Chosen {
  fact: FactName;
  values: ChoiceValue[];
}

/** What a part chooses among the values of one field; null where it says something else. */
export function chosenIn(part: Condition): Chosen | null {
  const anyOf = part.kind === "any" ? part.of : [part];
  const [first] = anyOf;
  if (first?.kind !== "compare" || factOf(first.fact).kind !== "choice") return null;
  const values: ChoiceValue[] = [];
  for (const comparison of anyOf) {
    const chosen = comparison.kind === "compare" ? valuesIn(comparison) : null;
    if (chosen === null || (comparison as Comparison).fact !== first.fact) return null;
    values.push(...chosen);
  }
  return { fact: first.fact, values };
}

function valuesIn({ op, value }: Comparison): ChoiceValue[] | null {
  if (op === "is empty") return [null];
  if (op === "one of")
    return Array.isArray(value) ? value : value === null ? null : [value as ChoiceValue];
  const one = typeof value === "string" || (isWord(value) && !("fact" in value));
  return op === "is" && one ? [value as ChoiceValue] : null;
}

const isWord = (value: ConditionValue | null): value is Extract<ConditionValue, object> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** Any of some values of a field, as a part of a filter; null where none is chosen. */
export function choosing({ fact, values }: Chosen): Condition | null {
  const named = values.filter((value) => typeof value === "string");
  const words = values.filter((value) => value !== null && typeof value !== "string");
  const compare = (op: Comparison["op"], value: ConditionValue | null): Comparison => ({
    kind: "compare",
    fact,
    op,
    value,
  });
  const of: Condition[] = [
    ...(named.length === 1 ? [compare("is", named[0])] : []),
    ...(named.length > 1 ? [compare("one of", named)] : []),
    ...words.map((word) => compare(isSeveral(word) ? "one of" : "is", word)),
    ...(values.includes(null) ? [compare("is empty", null)] : []),
  ];
  if (of.length === 0) return null;
  return of.length === 1 ? of[0] : { kind: "any", of };
}

const isSeveral = (word: Extract<ChoiceValue, object>): boolean =>
  "who" in word ? word.who === "my teams" : meansSeveral(word.sprint);

/** Whether two parts say the same. */
export const samePart = (a: Condition, b: Condition): boolean =>
  JSON.stringify(simplify(a)) === JSON.stringify(simplify(b));

/** Whether two values are the same. */
export const sameValue = (a: ChoiceValue, b: ChoiceValue): boolean =>
  JSON.stringify(a) === JSON.stringify(b);

/**
 * A filter with one part more. Another value of a field that is chosen from already means either of
 * them; what is in it already is not added twice.
 */
export function withPart(filter: Condition, part: Condition): Condition {
  const parts = filterParts(filter);
  if (parts.some((known) => samePart(known, part))) return filter;
  const added = chosenIn(part);
  const at = added ? parts.findIndex((known) => chosenIn(known)?.fact === added.fact) : -1;
  if (!added || at < 0) return filterOf([...parts, part]);
  const known = chosenIn(parts[at])!.values;
  const values = [
    ...known,
    ...added.values.filter((value) => !known.some((other) => sameValue(other, value))),
  ];
  return filterOf(parts.with(at, choosing({ fact: added.fact, values })!));
}

/** A filter with one part put in another's place, or taken out. */
export function withPartAt(filter: Condition, at: number, part: Condition | null): Condition {
  const parts = filterParts(filter);
  return filterOf(part === null ? parts.toSpliced(at, 1) : parts.with(at, part));
}

/** A filter with a part turned on or off. */
export function withTurned(filter: Condition, part: Condition): Condition {
  const at = filterParts(filter).findIndex((known) => samePart(known, part));
  return at < 0 ? filterOf([...filterParts(filter), part]) : withPartAt(filter, at, null);
}

/** What is chosen of a field with one value more, or without it; null where none is left. */
export function withValueTurned({ fact, values }: Chosen, value: ChoiceValue): Condition | null {
  const without = values.filter((known) => !sameValue(known, value));
  const next = without.length === values.length ? [...values, value] : without;
  return choosing({ fact, values: next });
}
