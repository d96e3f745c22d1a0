import { cardLookFacts } from "@/core/board/card-look";
import { lanesFacts } from "@/core/board/lanes-by";
import { factsIn } from "@/core/condition/condition";
import { ownFieldOf, type FactName } from "@/core/condition/facts";
import { factLabel, ownField, type Vocabulary } from "@/core/condition/vocabulary";
import type { Look } from "./look";

/** All facts that a look asks for. */
export const factsOf = (look: Look): Set<FactName> =>
  new Set([
    ...factsIn(look.scope),
    ...factsIn(look.filter),
    ...look.fields.map((field) => field.fact),
    ...look.sort.map((sort) => sort.fact),
    ...(look.group === null ? [] : [look.group]),
    ...(look.sum === null ? [] : [look.sum]),
    ...look.counts,
    ...lanesFacts(look.lanes),
    ...cardLookFacts(look.cards),
  ]);

/** The fields that a look asks for and the project has no more, by the names that they had. */
export function goneFields(look: Look, vocabulary: Vocabulary): string[] {
  const gone = [...factsOf(look)].filter(
    (fact) => ownFieldOf(fact) !== null && ownField(fact, vocabulary)?.removedAt !== null,
  );
  return [...new Set(gone.map((fact) => factLabel(fact, vocabulary)))];
}
