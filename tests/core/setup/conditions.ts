import fc from "fast-check";
import { operatorsFor, type Comparison, type Condition, type ConditionValue } from "@/core/condition/condition";
import { FACT_NAMES, FACTS, type FactName } from "@/core/condition/facts";
import { optionsOf, type Vocabulary } from "@/core/condition/vocabulary";

const TEXTS = ["ticket", "Gate", "a", "é ", 'say "so"', "the pier", "\\"];

function anyValue(fact: FactName, op: Comparison["op"], vocabulary: Vocabulary): fc.Arbitrary<ConditionValue | null> {
  const { kind, options } = FACTS[fact];
  if (op === "is set" || op === "is empty") return fc.constant(null);
  if (kind === "flag") return fc.boolean();
  if (kind === "number") return fc.oneof(fc.integer({ min: -1, max: 12 }), fc.double({ min: 0, max: 40, noNaN: true }));
  if (kind === "date") return fc.oneof(fc.integer({ min: -40, max: 40 }).map((day) => ({ day })), fc.integer({ min: 0, max: 400 }).map((n) => new Date(Date.UTC(2026, 0, 1 + n)).toISOString().slice(0, 10)));
  if (kind === "text") return fc.constantFrom(...TEXTS);
  const ids = optionsOf(fact, vocabulary).map((o) => o.id);
  if (op === "one of" || op === "none of") {
    const lists = fc.uniqueArray(fc.constantFrom(...ids), { minLength: 1, maxLength: 4 });
    return options === "teams" ? fc.oneof(lists, fc.constant({ who: "my teams" as const })) : lists;
  }
  return options === "people" ? fc.oneof(fc.constantFrom(...ids), fc.constant({ who: "me" as const })) : fc.constantFrom(...ids);
}

/** Any comparison that makes sense in a vocabulary. */
export function anyComparison(vocabulary: Vocabulary): fc.Arbitrary<Comparison> {
  return fc
    .constantFrom(...FACT_NAMES)
    .chain((fact) => fc.constantFrom(...operatorsFor(fact)).chain((op) => anyValue(fact, op, vocabulary).map((value): Comparison => ({ kind: "compare", fact, op, value }))));
}

/** Any condition, some levels deep. */
export function anyCondition(vocabulary: Vocabulary): fc.Arbitrary<Condition> {
  const { condition } = fc.letrec<{ condition: Condition }>((tie) => ({
    condition: fc.oneof(
      { depthSize: "small", withCrossShrink: true },
      anyComparison(vocabulary),
      fc.array(tie("condition"), { maxLength: 3 }).map((of): Condition => ({ kind: "all", of })),
      fc.array(tie("condition"), { maxLength: 3 }).map((of): Condition => ({ kind: "any", of })),
      tie("condition").map((of): Condition => ({ kind: "not", of })),
    ),
  }));
  return condition;
}

/** The ferry world's names, with one that occurs twice. */
export const VOCABULARY: Vocabulary = {
  types: [{ id: "bug", name: "Bug" }, { id: "story", name: "Story" }],
  states: [
    { id: "s1", name: "Backlog", workflowName: "Main" },
    { id: "s2", name: "Building", workflowName: "Main" },
    { id: "s3", name: "Done", workflowName: "Main" },
    { id: "s4", name: "Done", workflowName: "Tasks" },
  ],
  people: [{ id: "noor", name: "Noor Bakri" }, { id: "ivo", name: "Ivo Sandell" }],
  teams: [{ id: "ticketing", name: "Ticketing" }, { id: "quayside", name: "Quayside" }],
};
