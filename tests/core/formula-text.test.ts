import { MOST_OPERATIONS, type Arithmetic } from "@/core/condition/arithmetic";
import { formulaNumbers, parseFormula, printFormula } from "@/core/condition/formula-text";
import { VOCABULARY } from "./setup/conditions";

const number = (value: number): Arithmetic => ({ kind: "number", value });
const field = (name: string): Arithmetic => ({ kind: "field", field: name });
const estimate = field("estimate");
const value = field("own.f-value");
const of = (kind: "+" | "-" | "*" | "/", left: Arithmetic, right: Arithmetic): Arithmetic => ({
  kind,
  left,
  right,
});
const minus = (part: Arithmetic): Arithmetic => ({ kind: "negative", of: part });

/** Brackets stand where CEL would otherwise read another formula (cel-spec, "Syntax": precedence). */
test.each<[Arithmetic, string]>([
  [number(2), "2.0"],
  [estimate, "item.estimate"],
  [field("returns"), "item.times_returned"],
  [value, "item.value_lost_per_week"],
  [of("*", estimate, number(2)), "item.estimate * 2.0"],
  [
    of("*", of("+", estimate, value), number(2)),
    "(item.estimate + item.value_lost_per_week) * 2.0",
  ],
  [of("+", of("*", estimate, value), number(2)), "item.estimate * item.value_lost_per_week + 2.0"],
  [
    of("-", estimate, of("-", value, number(1))),
    "item.estimate - (item.value_lost_per_week - 1.0)",
  ],
  [of("-", of("-", estimate, value), number(1)), "item.estimate - item.value_lost_per_week - 1.0"],
  [
    of("/", estimate, of("*", value, number(3))),
    "item.estimate / (item.value_lost_per_week * 3.0)",
  ],
  [of("/", of("/", estimate, value), number(3)), "item.estimate / item.value_lost_per_week / 3.0"],
  [minus(estimate), "-item.estimate"],
  [minus(of("+", estimate, number(1))), "-(item.estimate + 1.0)"],
  [of("*", minus(estimate), number(2)), "-item.estimate * 2.0"],
  [of("*", number(2), minus(estimate)), "2.0 * (-item.estimate)"],
  [of("-", estimate, minus(value)), "item.estimate - -item.value_lost_per_week"],
])("%j is written %s and read again", (formula, text) => {
  expect(printFormula(formula, VOCABULARY)).toBe(text);
  expect(parseFormula(text, VOCABULARY)).toEqual({ formula, problem: null });
});

test("what is negative twice keeps its brackets, and is read as what it is", () => {
  expect(printFormula(minus(minus(estimate)), VOCABULARY)).toBe("-(-item.estimate)");
  expect(parseFormula("-(-item.estimate)", VOCABULARY).formula).toEqual(estimate);
});

test("a number below nothing stands in brackets", () =>
  expect(printFormula(of("-", estimate, number(-3)), VOCABULARY)).toBe("item.estimate - (-3.0)"));

test("a field that is gone says so", () =>
  expect(printFormula(field("own.gone"), VOCABULARY)).toBe("item.a_field_that_is_gone"));

test.each<[string, Arithmetic]>([
  ["2", number(2)],
  ["2u", number(2)],
  ["2.5", number(2.5)],
  [" item.estimate\n* 2 ", of("*", estimate, number(2))],
])("%j is read", (text, formula) =>
  expect(parseFormula(text, VOCABULARY)).toEqual({ formula, problem: null }),
);

test.each<[string, number, string]>([
  ["", 0, "Write a formula"],
  ["  \n", 0, "Write a formula"],
  ["1 + ".repeat(300), 1_000, "at most 1,000 characters"],
  ["99999999999999999999", 0, "A whole number goes up to"],
  ["item.estimate *", 14, "cannot be read from here on"],
  ['"two"', 0, "A number is wanted here."],
  ["true", 0, "A number is wanted here."],
  ["estimates", 0, "A number is wanted here, such as item.estimate or 2."],
  ["[1]", 0, "A number is wanted here, such as item.estimate or 2."],
  ["item.estimate % 2", 14, "“%” is not understood here"],
  ["item.estimate > 2", 14, "“>” is not understood here"],
  ["size(item.title)", 0, "“size” is not understood here"],
  ["item.title * 2", 5, "“title” is no number that can be computed with."],
  ["item.nothing * 2", 5, "An item has no number “nothing”."],
  ["other.estimate", 6, "estimate"],
  ["item.estimate.more", 14, "An item has no number “more”."],
])("%j: wrong at character %i, %s", (text, at, words) => {
  const { formula, problem } = parseFormula(text, VOCABULARY);
  expect(formula).toBeNull();
  expect(problem?.sentence).toContain(words);
  expect(problem?.at).toBe(at);
});

test("a formula has so many operations and so many characters, no more", () => {
  const sum = (n: number) =>
    Array<string>(n + 1)
      .fill("1")
      .join("+");
  expect(parseFormula(sum(MOST_OPERATIONS), VOCABULARY).problem).toBeNull();
  expect(parseFormula(sum(MOST_OPERATIONS + 1), VOCABULARY).problem?.sentence).toBe(
    `A formula has at most ${MOST_OPERATIONS} operations.`,
  );
  expect(parseFormula(`1${" ".repeat(999)}`, VOCABULARY).problem).toBeNull();
  expect(parseFormula(`1${" ".repeat(1_000)}`, VOCABULARY).problem).not.toBeNull();
});

test("fields are written by their own names too, and a mistake is told at its place in what was written", () => {
  expect(parseFormula("Value lost per week * (Estimate + 1)", VOCABULARY).formula).toEqual(
    of("*", value, of("+", estimate, number(1))),
  );
  expect(parseFormula("Value lost per week * item.nonsense", VOCABULARY).problem).toEqual({
    at: 27,
    sentence: "An item has no number “nonsense”.",
  });
});

test("every number that is offered can be read", () => {
  const offered = formulaNumbers(VOCABULARY);
  expect(offered.map((n) => n.label)).toEqual([
    "estimate",
    "times returned",
    "Value lost per week, pounds",
    "Weeks, weeks",
    "Cost of delay, pounds",
    "Weeks!",
  ]);
  for (const { field: name, text } of offered)
    expect(parseFormula(text, VOCABULARY).formula).toEqual(field(name));
});
