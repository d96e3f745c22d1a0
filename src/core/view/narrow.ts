import { factsIn, type Condition } from "@/core/condition/condition";
import type { FactName } from "@/core/condition/facts";
import { chosenIn, choosing, filterOf, filterParts, samePart } from "./filter";

/*
 * Narrowing a filter to values of one field, by pointing at them. The parts of a filter that are
 * about that field alone are what is narrowed; everything else in it stays.
 */

/** Whether a part of a filter is about one field alone. */
const isAbout = (part: Condition, fact: FactName): boolean => {
  const facts = factsIn(part);
  return facts.size === 1 && facts.has(fact);
};

/** A filter without what narrows it to values of a field: what the values themselves are counted over. */
export const withoutNarrowing = (filter: Condition, fact: FactName): Condition =>
  filterOf(filterParts(filter).filter((part) => !isAbout(part, fact)));

/** What a part lets through, one by one: each value that is chosen, or each of what is either. */
function alternatives(part: Condition): Condition[] {
  const chosen = chosenIn(part);
  if (chosen)
    return chosen.values.map((value) => choosing({ fact: chosen.fact, values: [value] })!);
  return part.kind === "any" ? part.of : [part];
}

/** Any of some alternatives as one part; values of one choice as the choice of several. */
function anyOf(of: readonly Condition[]): Condition {
  if (of.length === 1) return of[0];
  const chosen = of.map(chosenIn);
  const [first] = chosen;
  const together =
    first && chosen.every((one) => one?.fact === first.fact)
      ? choosing({ fact: first.fact, values: chosen.flatMap((one) => one!.values) })
      : null;
  return together ?? { kind: "any", of: [...of] };
}

/** What a filter narrows a field to: any of these. Several parts about it hold together, as one. */
function alternativesOf(filter: Condition, fact: FactName): Condition[] {
  const own = filterParts(filter).filter((part) => isAbout(part, fact));
  return own.length > 1 ? [{ kind: "all", of: own }] : own.flatMap(alternatives);
}

/** Whether a filter is narrowed to a value of a field, among others perhaps. */
export const isNarrowedTo = (filter: Condition, fact: FactName, meaning: Condition): boolean =>
  alternativesOf(filter, fact).some((one) => samePart(one, meaning));

/** A filter narrowed to one value of a field; to all again where it was narrowed to just that. */
export function narrowedTo(filter: Condition, fact: FactName, meaning: Condition): Condition {
  const rest = withoutNarrowing(filter, fact);
  const before = alternativesOf(filter, fact);
  const again = before.length === 1 && samePart(before[0], meaning);
  return again ? rest : filterOf([...filterParts(rest), meaning]);
}

/** A filter narrowed to one value more of a field, or to one less. */
export function narrowedToo(filter: Condition, fact: FactName, meaning: Condition): Condition {
  const rest = filterParts(withoutNarrowing(filter, fact));
  const before = alternativesOf(filter, fact);
  const without = before.filter((one) => !samePart(one, meaning));
  const next = without.length === before.length ? [...before, meaning] : without;
  return filterOf(next.length === 0 ? rest : [...rest, anyOf(next)]);
}
