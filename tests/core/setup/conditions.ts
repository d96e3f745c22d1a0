import fc from "fast-check";
import {
  comparableWith,
  DEEPEST,
  levelsIn,
  operatorsFor,
  otherFact,
  type Comparison,
  type Condition,
  type ConditionValue,
} from "@/core/condition/condition";
import { AMONG } from "@/core/condition/relatives";
import { factOf, type FactName } from "@/core/condition/facts";
import { ONE_SPRINT_WORDS } from "@/core/condition/sprint-word";
import { CHANGE_CHECKS, TEST_RESULTS, type Outside } from "@/core/item/outside";
import { PLAIN_FIELD, type OwnField, type OwnValues } from "@/core/item/own-field";
import {
  EMPTY_VOCABULARY,
  factsOffered,
  optionsOf,
  type Vocabulary,
} from "@/core/condition/vocabulary";

const TEXTS = ["ticket", "Gate", "a", "é ", 'say "so"', "the pier", "\\"];

function anyValue(
  fact: FactName,
  op: Comparison["op"],
  vocabulary: Vocabulary,
): fc.Arbitrary<ConditionValue | null> {
  if (op === "is set" || op === "is empty") return fc.constant(null);
  if (op === "counts at least" || op === "counts at most") return fc.integer({ min: 0, max: 12 });
  const others = comparableWith(fact, op, factsOffered(vocabulary));
  const plain = plainValue(fact, op, vocabulary);
  return others.length === 0
    ? plain
    : fc.oneof(
        { weight: 4, arbitrary: plain },
        { weight: 1, arbitrary: fc.constantFrom(...others).map((other) => ({ fact: other })) },
      );
}

function plainValue(
  fact: FactName,
  op: Comparison["op"],
  vocabulary: Vocabulary,
): fc.Arbitrary<ConditionValue | null> {
  const { kind, options } = factOf(fact);
  if (kind === "flag") return fc.boolean();
  if (kind === "number")
    return fc.oneof(
      fc.integer({ min: -1, max: 12 }),
      fc.double({ min: 0, max: 40, noNaN: true }),
      fc.constantFrom(1e21, -1e-9, 99999999999999999999),
    );
  if (kind === "date")
    return fc.oneof(
      fc.integer({ min: -40, max: 40 }).map((day) => ({ day })),
      fc
        .integer({ min: 0, max: 400 })
        .map((n) => new Date(Date.UTC(2026, 0, 1 + n)).toISOString().slice(0, 10)),
    );
  if (kind === "text" || (kind === "set" && options === null)) return fc.constantFrom(...TEXTS);
  const ids = optionsOf(fact, vocabulary).map((o) => o.id);
  if (op === "one of" || op === "none of") {
    const lists = fc.uniqueArray(fc.constantFrom(...ids), { minLength: 1, maxLength: 4 });
    if (options === "teams") return fc.oneof(lists, fc.constant({ who: "my teams" as const }));
    const several = fc.constant({ sprint: "last three" as const });
    return options === "sprints" ? fc.oneof(lists, several) : lists;
  }
  if (options === "sprints")
    return fc.oneof(
      fc.constantFrom(...ids),
      fc.constantFrom(...ONE_SPRINT_WORDS).map((sprint) => ({ sprint })),
    );
  return options === "people"
    ? fc.oneof(fc.constantFrom(...ids), fc.constant({ who: "me" as const }))
    : fc.constantFrom(...ids);
}

/** Any comparison that makes sense in a vocabulary. */
export function anyComparison(vocabulary: Vocabulary): fc.Arbitrary<Comparison> {
  return fc.constantFrom(...factsOffered(vocabulary)).chain((fact) =>
    fc.constantFrom(...operatorsFor(fact)).chain((op) =>
      anyValue(fact, op, vocabulary).map((value): Comparison => ({
        kind: "compare",
        fact,
        op,
        value,
      })),
    ),
  );
}

/** Any condition about an item alone, some levels deep. */
function anyOfItem(
  vocabulary: Vocabulary,
  comparison: fc.Arbitrary<Condition> = anyComparison(vocabulary),
): fc.Arbitrary<Condition> {
  const { condition } = fc.letrec<{ condition: Condition }>((tie) => ({
    condition: fc.oneof(
      { depthSize: "small", withCrossShrink: true },
      comparison,
      fc.array(tie("condition"), { maxLength: 3 }).map((of): Condition => ({ kind: "all", of })),
      fc.array(tie("condition"), { maxLength: 3 }).map((of): Condition => ({ kind: "any", of })),
      tie("condition").map((of): Condition => ({ kind: "not", of })),
    ),
  }));
  return condition;
}

/** Any condition: about an item, its children and its parent. */
export function anyCondition(vocabulary: Vocabulary): fc.Arbitrary<Condition> {
  // How promises stand is asked of the items of a list alone.
  const inner = anyComparison(vocabulary).filter(
    ({ fact, value }) => fact !== "promise" && otherFact({ value }) !== "promise",
  );
  const ofRelatives = fc
    .record({
      among: fc.constantFrom(...AMONG),
      of: fc.array(anyOfItem(vocabulary, inner), { minLength: 1, maxLength: 2 }),
    })
    .map((some): Condition => ({ kind: "some", ...some }));
  const leaf = fc.oneof(
    { weight: 5, arbitrary: anyComparison(vocabulary) as fc.Arbitrary<Condition> },
    { weight: 1, arbitrary: ofRelatives },
  );
  return anyOfItem(vocabulary, leaf).filter((condition) => levelsIn(condition) <= DEEPEST);
}

/** The ferry world's names, with one that occurs twice. */
const OWN: OwnField = { ...PLAIN_FIELD, id: "", name: "", kind: "text", position: 0 };

/**
 * A field of each kind, as the ferry's leads would make them; two have names that are written
 * alike.
 */
export const OWN_FIELDS: OwnField[] = [
  { ...OWN, id: "f-note", name: "Note for the deck", kind: "text", position: 0 },
  {
    ...OWN,
    id: "f-value",
    name: "Value lost per week",
    kind: "number",
    unit: "pounds",
    position: 1,
  },
  { ...OWN, id: "f-weeks", name: "Weeks", kind: "number", unit: "weeks", position: 2 },
  { ...OWN, id: "f-sailing", name: "First sailing", kind: "date", position: 3 },
  {
    ...OWN,
    id: "f-route",
    name: "Route",
    kind: "one of",
    options: [
      { id: "north", name: "North run", offered: true },
      { id: "isle", name: "Isle run", offered: true },
    ],
    position: 4,
  },
  {
    ...OWN,
    id: "f-quays",
    name: "Quays",
    kind: "many of",
    options: [
      { id: "q1", name: "Quay 1", offered: true },
      { id: "q2", name: "Quay 2", offered: true },
    ],
    position: 5,
  },
  { ...OWN, id: "f-skipper", name: "Skipper", kind: "person", position: 6 },
  { ...OWN, id: "f-storm", name: "Storm", kind: "yes or no", position: 7 },
  { ...OWN, id: "f-log", name: "Log", kind: "link", position: 8 },
  {
    ...OWN,
    id: "f-cost",
    name: "Cost of delay",
    kind: "computed",
    unit: "pounds",
    formula: {
      kind: "*",
      left: { kind: "field", field: "own.f-value" },
      right: { kind: "field", field: "own.f-weeks" },
    },
    position: 9,
  },
  {
    ...OWN,
    id: "f-share",
    name: "Weeks!",
    kind: "computed",
    formula: {
      kind: "/",
      left: { kind: "field", field: "own.f-cost" },
      right: { kind: "field", field: "estimate" },
    },
    position: 10,
  },
  {
    ...OWN,
    id: "f-below",
    name: "Size below",
    kind: "shown number",
    source: { from: "children", of: "estimate", by: "sum" },
    position: 11,
  },
  {
    ...OWN,
    id: "f-ends",
    name: "Sprint ends",
    kind: "shown date",
    source: { from: "sprint", of: "endsOn", by: null },
    position: 12,
  },
  {
    ...OWN,
    id: "f-above",
    name: "Part of",
    kind: "shown text",
    source: { from: "parent", of: "title", by: null },
    position: 13,
  },
];

export const VOCABULARY: Vocabulary = {
  ...EMPTY_VOCABULARY,
  own: OWN_FIELDS,
  sprints: [
    { id: "sp1", name: "Sprint 1" },
    { id: "sp2", name: "Sprint 2" },
  ],
  releases: [{ id: "r1", name: "Spring" }],
  levels: [
    { id: "0", name: "task" },
    { id: "1", name: "story" },
    { id: "2", name: "voyage" },
  ],
  projects: [
    { id: "project", name: "Ticket app" },
    { id: "gate", name: "Quay gates" },
  ],
  types: [
    { id: "bug", name: "Bug", workflowId: "main" },
    { id: "story", name: "Story", workflowId: "main" },
  ],
  states: [
    { id: "s1", name: "Backlog", workflowName: "Main" },
    { id: "s2", name: "Building", workflowName: "Main" },
    { id: "s3", name: "Done", workflowName: "Main" },
    { id: "s4", name: "Done", workflowName: "Tasks" },
  ],
  people: [
    { id: "noor", name: "Noor Bakri" },
    { id: "ivo", name: "Ivo Sandell" },
  ],
  teams: [
    { id: "ticketing", name: "Ticketing" },
    { id: "quayside", name: "Quayside" },
  ],
};

/** Own fields, some of them not filled in. */
export const anyOwn: fc.Arbitrary<OwnValues> = fc.record(
  {
    "f-note": fc.constantFrom("ticket", "the pier"),
    "f-value": fc.integer({ min: 0, max: 12 }),
    "f-weeks": fc.integer({ min: 0, max: 3 }),
    "f-sailing": fc.constantFrom("1970-01-08", "2026-06-01"),
    "f-route": fc.constantFrom("north", "isle"),
    "f-quays": fc.subarray(["q1", "q2"], { minLength: 1 }),
    "f-skipper": fc.constantFrom("noor", "ivo"),
    "f-storm": fc.boolean(),
    "f-log": fc.constant("https://saltmarsh.example/a"),
  },
  { requiredKeys: [] },
);

/** What may be known from outside. */
export const anyOutside: fc.Arbitrary<Outside> = fc.record({
  changes: fc.array(
    fc.record({
      id: fc.constant("7"),
      status: fc.constantFrom("open" as const, "merged" as const, "abandoned" as const),
      checks: fc.constantFrom(null, ...CHANGE_CHECKS),
      review: fc.constant(null),
    }),
    { maxLength: 3 },
  ),
  deployedTo: fc.subarray(["Gate", "a"]),
  testResult: fc.constantFrom(null, ...TEST_RESULTS),
});

/** What fields show from something linked, as far as they do. */
export const anyShown = fc.record(
  {
    "f-below": fc.integer({ min: 0, max: 9 }),
    "f-ends": fc.constantFrom("1970-01-05", "1970-01-12"),
    "f-above": fc.constantFrom("gate", "Storm desk"),
  },
  { requiredKeys: [] },
);

/** Criteria of an item, with some of them met. */
export const anyCriteria = fc.nat(4).chain((count) => {
  const criteria = Array.from({ length: count }, (_, i) => ({ id: `k${i}`, text: `Line ${i}` }));
  return fc.subarray(criteria).map((found) => ({
    criteria,
    met: found.map(({ id }) => ({ criterionId: id, byId: "noor", at: 0 })),
  }));
});
