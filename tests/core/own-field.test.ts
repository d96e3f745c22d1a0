import { celEnv, parse, plan } from "@bufbuild/cel";
import fc from "fast-check";
import { calculate, type Arithmetic } from "@/core/condition/arithmetic";
import { parseFormula, printFormula } from "@/core/condition/formula-text";
import { circularField, computedFields } from "@/core/item/compute-fields";
import {
  fieldsOfType,
  fieldTexts,
  ownFieldSchema,
  ownValueProblem,
  ownValueWords,
  type OwnField,
  type OwnValue,
} from "@/core/item/own-field";
import { OWN_FIELDS, VOCABULARY } from "./setup/conditions";
import { runs } from "./setup/runs";

const NUMBERS = ["estimate", "returns", "own.f-value", "own.f-weeks"];
const TEXTS: Record<string, string> = {
  estimate: "estimate",
  returns: "times_returned",
  "own.f-value": "value_lost_per_week",
  "own.f-weeks": "weeks",
};

const { formula: anyFormula } = fc.letrec<{ formula: Arithmetic }>((tie) => ({
  formula: fc.oneof(
    { depthSize: "small", withCrossShrink: true },
    fc.integer({ min: 0, max: 20 }).map((value): Arithmetic => ({ kind: "number", value })),
    fc.constantFrom(...NUMBERS).map((field): Arithmetic => ({ kind: "field", field })),
    tie("formula").map((of): Arithmetic => ({ kind: "negative", of })),
    fc
      .tuple(
        fc.constantFrom("+" as const, "-" as const, "*" as const, "/" as const),
        tie("formula"),
        tie("formula"),
      )
      .map(([kind, left, right]): Arithmetic => ({ kind, left, right })),
  ),
}));
const shallow = anyFormula.filter((f) => JSON.stringify(f).length < 900);

/**
 * The formula language against the language it is a subset of: @bufbuild/cel 0.6.1 computes the
 * printed text with doubles.
 */
test("a formula's text means the same to CEL, and comes back as it was", () => {
  const environment = celEnv({});
  let compared = 0;
  fc.assert(
    fc.property(
      shallow,
      fc.tuple(
        fc.integer({ min: 0, max: 9 }),
        fc.integer({ min: 0, max: 9 }),
        fc.integer({ min: 0, max: 9 }),
        fc.integer({ min: 0, max: 9 }),
      ),
      (formula, values) => {
        const text = printFormula(formula, VOCABULARY);
        const back = parseFormula(text, VOCABULARY);
        const numberOf = (field: string) => values[NUMBERS.indexOf(field)];
        const ours = calculate(formula, numberOf);
        if (back.formula) expect(calculate(back.formula, numberOf)).toEqual(ours);
        else expect(back.problem.sentence).toMatch(/at most 20 operations/);
        const theirs = plan(
          environment,
          parse(text),
        )({
          item: Object.fromEntries(NUMBERS.map((field, i) => [TEXTS[field], values[i]])) as never,
        });
        // Where CEL divides by zero to infinity and goes on, this product has no value.
        if (ours === null) return;
        compared += 1;
        expect(Math.abs((theirs as number) - ours)).toBeLessThanOrEqual(
          1e-9 * Math.max(1, Math.abs(ours)),
        );
      },
    ),
    { numRuns: runs(500) },
  );
  expect(compared).toBeGreaterThan(runs(500) * 0.5);
});

test.each<[string, number, RegExp]>([
  ["item.value_lost_per_week *", 25, /cannot be read/],
  ["item.estimate + item.nothing", 21, /no number “nothing”/],
  ["item.type * 2", 5, /“type” is no number/],
  ['item.estimate + "two"', 16, /number is wanted/],
  ["size(item.estimate)", 0, /is not understood here/],
  ["", 0, /Write a formula/],
])("the formula %j is wrong at character %d", (text, at, sentence) => {
  const { problem } = parseFormula(text, VOCABULARY);
  expect(problem!.sentence).toMatch(sentence);
  expect(problem!.at).toBe(at);
});

// Common practice, no source: a value lost of 5,000 a week over 8 weeks is a cost of delay of
// 40,000.
test("the cost of delay is computed from its parts, a field from a computed one, and nothing from a part that is missing", () => {
  const own = { "f-value": 5_000, "f-weeks": 8 };
  expect(computedFields(OWN_FIELDS, { estimate: 4, returns: 0, own })).toEqual({
    "f-cost": 40_000,
    "f-share": 10_000,
  });
  expect(computedFields(OWN_FIELDS, { estimate: 0, returns: 0, own })).toEqual({
    "f-cost": 40_000,
    "f-share": null,
  });
  expect(
    computedFields(OWN_FIELDS, { estimate: 4, returns: 0, own: { "f-value": 5_000 } }),
  ).toEqual({ "f-cost": null, "f-share": null });
});

test("fields that compute each other are found, and have no value should there be some", () => {
  const of = (id: string, field: string): OwnField => ({
    ...OWN_FIELDS[0],
    id,
    kind: "computed",
    formula: {
      kind: "+",
      left: { kind: "field", field: `own.${field}` },
      right: { kind: "number", value: 1 },
    },
  });
  expect(circularField([of("a", "b"), of("b", "c"), of("c", "a")])).toBe("a");
  expect(circularField([of("a", "a")])).toBe("a");
  expect(circularField([of("a", "b"), of("b", "x")])).toBeNull();
  expect(
    computedFields([of("a", "b"), of("b", "a")], { estimate: 1, returns: 0, own: {} }),
  ).toEqual({ a: null, b: null });
});

const field = (id: string) => OWN_FIELDS.find((f) => f.id === id)!;
test.each<[string, OwnValue, boolean]>([
  ["f-note", "By the bow", true],
  ["f-note", " ", false],
  ["f-note", 3, false],
  ["f-value", 12.5, true],
  ["f-value", "12", false],
  ["f-value", NaN, false],
  ["f-sailing", "2026-02-28", true],
  ["f-sailing", "2026-02-30", false],
  ["f-route", "isle", true],
  ["f-route", "moon", false],
  ["f-quays", ["q1", "q2"], true],
  ["f-quays", ["q1", "q1"], false],
  ["f-quays", [], false],
  ["f-quays", ["q9"], false],
  ["f-storm", false, true],
  ["f-storm", "no", false],
  ["f-log", "https://saltmarsh.example/x?y=1", true],
  ["f-log", "javascript:alert(1)", false],
  ["f-log", "https://a b", false],
  ["f-cost", 3, false],
])("%s takes %j: %s", (id, value, takes) =>
  expect(ownValueProblem(field(id), value) === null).toBe(takes),
);

test("values read as people say them", () => {
  const nameOf = (id: string) => (id === "noor" ? "Noor Bakri" : "?");
  expect(
    [
      ["f-value", 1200],
      ["f-quays", ["q1", "q2"]],
      ["f-skipper", "noor"],
      ["f-storm", true],
      ["f-route", "moon"],
      ["f-note", null],
    ].map(([id, value]) => ownValueWords(field(id as string), value as OwnValue, nameOf)),
  ).toEqual(["1,200 pounds", "Quay 1, Quay 2", "Noor Bakri", "yes", "a former choice", "not set"]);
});

test("names become names in the text form, each one once, in any script", () => {
  const named = (name: string, id: string, position: number) => ({ id, name, position });
  const texts = fieldTexts(
    [
      named("Value lost", "a", 0),
      named("value-lost", "b", 1),
      named("検査", "c", 2),
      named("Größe", "d", 3),
      named("Type", "e", 4),
      named("3 tides", "f", 5),
    ],
    new Set(["type"]),
  );
  expect([...texts.values()]).toEqual([
    "value_lost",
    "value_lost_2",
    "field",
    "groe",
    "type_2",
    "field_3_tides",
  ]);
  for (const text of texts.values()) expect(text).toMatch(/^[a-z][a-z0-9_]*$/);
});

test("a type has the fields that name it or name no type, without those that were taken out", () => {
  const fields = [
    { ...field("f-note"), typeIds: ["bug"] },
    { ...field("f-value"), typeIds: [] },
    { ...field("f-weeks"), removedAt: 5 },
  ];
  expect(fieldsOfType(fields, "bug").map((f) => f.id)).toEqual(["f-note", "f-value"]);
  expect(fieldsOfType(fields, "story").map((f) => f.id)).toEqual(["f-value"]);
});

test.each<[string, Partial<OwnField>, RegExp]>([
  ["a choice without choices", { kind: "one of", options: [] }, /something to choose from/],
  [
    "two choices of one name",
    {
      kind: "one of",
      options: [
        { id: "a", name: "North", offered: true },
        { id: "b", name: "north", offered: true },
      ],
    },
    /same name/,
  ],
  ["computed without a formula", { kind: "computed" }, /how it is computed/],
  [
    "computed and asked for",
    { kind: "computed", formula: { kind: "number", value: 1 }, requiredAtStart: true },
    /not asked for/,
  ],
  ["an initial value of another kind", { kind: "number", initial: "many" }, /is a number/],
  ["no name", { name: " " }, /needs a name/],
])("%s is refused", (_what, change, complaint) => {
  const { position: _, removedAt: __, ...plain } = { ...field("f-note"), ...change };
  expect(
    ownFieldSchema
      .safeParse(plain)
      .error?.issues.map((i) => i.message)
      .join(" "),
  ).toMatch(complaint);
});
