import { celEnv, parse, plan } from "@bufbuild/cel";
import fc from "fast-check";
import { calculate, type Arithmetic } from "@/core/condition/arithmetic";
import { parseFormula, printFormula } from "@/core/condition/formula-text";
import { circularField, computedFields } from "@/core/item/compute-fields";
import {
  fieldsOfType,
  mustBeSaid,
  fieldTexts,
  MOST_OWN_FIELDS,
  ownChangesSchema,
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
test.each<[string, OwnValue, string | null]>([
  ["f-note", "By the bow", null],
  ["f-note", " ", "“Note for the deck” is a text."],
  ["f-note", 3, "“Note for the deck” is a text."],
  ["f-value", 12.5, null],
  ["f-value", "12", "“Value lost per week” is a number."],
  ["f-value", NaN, "“Value lost per week” is a number."],
  ["f-sailing", "2026-02-28", null],
  ["f-sailing", "2026-02-30", "“First sailing” is a date."],
  ["f-sailing", 20260228, "“First sailing” is a date."],
  ["f-route", "isle", null],
  ["f-route", "moon", "“Route” is one of its choices."],
  ["f-route", ["isle"], "“Route” is one of its choices."],
  ["f-quays", ["q1", "q2"], null],
  ["f-quays", ["q1", "q1"], "“Quays” is some of its choices."],
  ["f-quays", [], "“Quays” is some of its choices."],
  ["f-quays", ["q9"], "“Quays” is some of its choices."],
  ["f-quays", ["q1", "q9"], "“Quays” is some of its choices."],
  ["f-quays", "q1", "“Quays” is some of its choices."],
  ["f-skipper", "noor", null],
  ["f-skipper", "", "“Skipper” is a person."],
  ["f-skipper", true, "“Skipper” is a person."],
  ["f-storm", false, null],
  ["f-storm", "no", "“Storm” is yes or no."],
  ["f-log", "https://saltmarsh.example/x?y=1", null],
  ["f-log", "javascript:alert(1)", "“Log” is an address that begins with http:// or https://."],
  ["f-log", "https://a b", "“Log” is an address that begins with http:// or https://."],
  ["f-log", 3, "“Log” is an address that begins with http:// or https://."],
  ["f-cost", 3, "“Cost of delay” is computed and cannot be set."],
])("%s takes %j: %s", (id, value, problem) =>
  expect(ownValueProblem(field(id), value)).toBe(problem),
);

test("values read as people say them", () => {
  const nameOf = (id: string) => (id === "noor" ? "Noor Bakri" : "?");
  expect(
    [
      ["f-value", 1200],
      ["f-quays", ["q1", "q2"]],
      ["f-skipper", "noor"],
      ["f-storm", true],
      ["f-storm", false],
      ["f-route", "moon"],
      ["f-route", "isle"],
      ["f-note", "By the bow"],
      ["f-note", null],
      ["f-note", undefined],
      ["f-share", 2.345],
    ].map(([id, value]) => ownValueWords(field(id as string), value as OwnValue, nameOf)),
  ).toEqual([
    "1,200 pounds",
    "Quay 1, Quay 2",
    "Noor Bakri",
    "yes",
    "no",
    "a former choice",
    "Isle run",
    "By the bow",
    "not set",
    "not set",
    "2.35",
  ]);
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
    { ...field("f-value"), typeIds: [] },
    { ...field("f-note"), typeIds: ["bug"] },
    { ...field("f-weeks"), removedAt: 5 },
  ];
  expect(fieldsOfType(fields, "bug").map((f) => f.id)).toEqual(["f-note", "f-value"]);
  expect(fieldsOfType(fields, "story").map((f) => f.id)).toEqual(["f-value"]);
});

/** As it is sent, without what the server says about it. */
const sent = (change: Partial<OwnField>) => {
  const { position: _, removedAt: __, ...plain } = { ...field("f-note"), ...change };
  return ownFieldSchema.safeParse(plain);
};
const north = { id: "a", name: "North", offered: true };
const sum = (operations: number): Arithmetic =>
  operations === 0
    ? { kind: "number", value: 1 }
    : { kind: "+", left: { kind: "field", field: "estimate" }, right: sum(operations - 1) };

test.each<[string, Partial<OwnField>]>([
  ["a text", { initial: "By the bow" }],
  [
    "a choice, some of it former",
    { kind: "one of", options: [north, { ...north, id: "b", name: "South", offered: false }] },
  ],
  ["several", { kind: "many of", options: [north] }],
  ["a number with its unit", { kind: "number", unit: " pounds ", initial: 1e12 }],
  ["a computed number", { kind: "computed", formula: sum(20) }],
  [
    "each operation",
    {
      kind: "computed",
      formula: {
        kind: "-",
        left: { kind: "negative", of: sum(1) },
        right: { kind: "*", left: sum(0), right: { kind: "/", left: sum(0), right: sum(0) } },
      },
    },
  ],
])("%s is a field", (_what, change) => expect(sent(change).success).toBe(true));

test.each<[string, Partial<OwnField>, string, RegExp]>([
  ["a choice without choices", { kind: "one of", options: [] }, "options", /to choose from/],
  ["several without any", { kind: "many of", options: [] }, "options", /to choose from/],
  [
    "only former ones",
    { kind: "one of", options: [{ ...north, offered: false }] },
    "options",
    /to choose from/,
  ],
  [
    "two choices of one name",
    { kind: "one of", options: [north, { ...north, id: "b", name: "north" }] },
    "options",
    /same name/,
  ],
  [
    "a choice without a name",
    { kind: "one of", options: [{ ...north, name: " " }] },
    "options.0.name",
    /A choice needs a name/,
  ],
  ["computed without a formula", { kind: "computed" }, "formula", /how it is computed/],
  [
    "a formula that is too long",
    { kind: "computed", formula: sum(21) },
    "formula",
    /at most 20 operations/,
  ],
  [
    "computed and asked for",
    { kind: "computed", formula: sum(1), requiredAtStart: true },
    "kind",
    /not asked for/,
  ],
  [
    "computed and begun with",
    { kind: "computed", formula: sum(1), initial: 3 },
    "kind",
    /not asked for/,
  ],
  [
    "an initial value of another kind",
    { kind: "number", initial: "many" },
    "initial",
    /is a number/,
  ],
  ["a number beyond all", { kind: "number", initial: 1e13 }, "initial", /./],
  ["no name", { name: " " }, "name", /needs a name/],
  ["a long name", { name: "x".repeat(61) }, "name", /at most 60/],
  ["a long unit", { unit: "x".repeat(21) }, "unit", /./],
])("%s is refused", (_what, change, path, complaint) => {
  const issues = sent(change).error?.issues ?? [];
  const found = issues.filter((i) => i.path.join(".") === path);
  expect(found.map((i) => i.message).join(" ")).toMatch(complaint);
});

test("so many values at once are taken, no more", () => {
  const values = (n: number) =>
    Object.fromEntries(Array.from({ length: n }, (_, i) => [`f${i}`, null]));
  expect(ownChangesSchema.safeParse(values(MOST_OWN_FIELDS)).success).toBe(true);
  expect(ownChangesSchema.safeParse(values(MOST_OWN_FIELDS + 1)).error?.issues[0].message).toBe(
    "Too many fields at once.",
  );
});

test("names are given in the order of the fields, and by their ids where they stand alike", () => {
  const named = (id: string, position: number) => ({ id, name: "Tide  now", position });
  expect([...fieldTexts([named("c", 2), named("b", 1), named("a", 1)], new Set())]).toEqual([
    ["a", "tide_now"],
    ["b", "tide_now_2"],
    ["c", "tide_now_3"],
  ]);
});

test("a formula counts with what every item has; with what it has not there is no value", () => {
  const of = (name: string): OwnField => ({
    ...OWN_FIELDS[0],
    id: "x",
    kind: "computed",
    formula: { kind: "field", field: name },
  });
  const numbers = { estimate: 4, returns: 2, own: { "f-note": "text", "f-value": 7 } };
  expect(computedFields([of("estimate")], numbers)).toEqual({ x: 4 });
  expect(computedFields([of("returns")], numbers)).toEqual({ x: 2 });
  expect(computedFields([of("own.f-value")], numbers)).toEqual({ x: 7 });
  expect(computedFields([of("own.f-note")], numbers)).toEqual({ x: null });
  expect(computedFields([of("other")], numbers)).toEqual({ x: null });
  expect(computedFields([{ ...of("estimate"), kind: "number" }], numbers)).toEqual({});
});

test("what a new item must say is said for each type, or for all that have it", () => {
  const field = { ...OWN_FIELDS[0], requiredAtStart: true };
  const said = (change: Partial<OwnField>) =>
    ["bug", "story"].map((type) => mustBeSaid({ ...field, ...change }, type));
  expect(said({ requiredTypeIds: [] })).toEqual([true, true]);
  expect(said({ requiredTypeIds: ["bug"] })).toEqual([true, false]);
  expect(said({ requiredAtStart: false, requiredTypeIds: ["bug"] })).toEqual([false, false]);
});
