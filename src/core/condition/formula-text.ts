import { isShown } from "@/core/item/own-field";
import { parse } from "@bufbuild/cel";
import { ITEM_NUMBERS, MOST_OPERATIONS, operationsIn, type Arithmetic } from "./arithmetic";
import type { TextProblem } from "./cel-parse";
import { celNumber } from "./cel-print";
import { literalProblem } from "./cel-literals";
import { factOf, ownFactName, ownFieldOf, type FactName } from "./facts";
import { inSigns } from "./plain-words";
import { factLabel, factText, factTexts, type Vocabulary } from "./vocabulary";

type Expr = NonNullable<ReturnType<typeof parse>["expr"]>;

class Trouble extends Error {
  constructor(
    readonly exprId: bigint,
    sentence: string,
    /** So many characters into the expression. */
    readonly into = 0,
  ) {
    super(sentence);
  }
}

const OPERATIONS: Record<string, "+" | "-" | "*" | "/"> = {
  "_+_": "+",
  "_-_": "-",
  "_*_": "*",
  "_/_": "/",
};
const STRENGTH = { "+": 1, "-": 1, "*": 2, "/": 2 } as const;

/**
 * A formula in its text form, the arithmetic of the Common Expression Language: `item.value *
 * (item.weeks + 1.0)`.
 */
export function printFormula(formula: Arithmetic, vocabulary: Vocabulary): string {
  switch (formula.kind) {
    case "number":
      return celNumber(formula.value);
    case "field":
      return `item.${fieldText(formula.field, vocabulary)}`;
    case "negative":
      return `-${bracketed(formula.of, 3, vocabulary)}`;
    default: {
      const strength = STRENGTH[formula.kind];
      // The right side of a minus or a division keeps its brackets, and so does everything that is
      // weaker.
      return `${bracketed(formula.left, strength, vocabulary)} ${formula.kind} ${bracketed(formula.right, strength + 1, vocabulary)}`;
    }
  }
}

function bracketed(part: Arithmetic, least: number, vocabulary: Vocabulary): string {
  const text = printFormula(part, vocabulary);
  const strength =
    part.kind === "number"
      ? part.value < 0
        ? 0
        : 4
      : part.kind === "field"
        ? 4
        : part.kind === "negative"
          ? 2.5
          : STRENGTH[part.kind];
  return strength < least ? `(${text})` : text;
}

function fieldText(field: string, vocabulary: Vocabulary): string {
  if (field in ITEM_NUMBERS) return ITEM_NUMBERS[field as keyof typeof ITEM_NUMBERS];
  const own = vocabulary.own.find((f) => `own.${f.id}` === field);
  return own ? factText(ownFactName(own), vocabulary) : "a_field_that_is_gone";
}

/** A number of an item that a formula can be made of. */
export interface FormulaNumber {
  /** As a formula names it: `estimate`, or `own.<id>`. */
  field: string;
  /** As it stands in the text. */
  text: string;
  label: string;
}

/** The numbers that a formula can be made of, those of every item first. */
export function formulaNumbers(vocabulary: Vocabulary): FormulaNumber[] {
  const ofEvery = Object.entries(ITEM_NUMBERS).map(([field, text]) => ({
    field,
    text: `item.${text}`,
    label: factLabel(field as FactName, vocabulary),
  }));
  const own = vocabulary.own
    .filter((f) => f.removedAt === null && !isShown(f.kind))
    .filter((f) => factOf(ownFactName(f)).kind === "number")
    .map((f) => ({
      field: `own.${f.id}`,
      text: `item.${factText(ownFactName(f), vocabulary)}`,
      label: f.unit ? `${f.name}, ${f.unit}` : f.name,
    }));
  return [...ofEvery, ...own];
}

/** Reads a formula's text, also with the fields' own names. */
export function parseFormula(
  text: string,
  vocabulary: Vocabulary,
): { formula: Arithmetic; problem: null } | { formula: null; problem: TextProblem } {
  const failed = (at: number, sentence: string) => ({ formula: null, problem: { at, sentence } });
  if (text.trim() === "") return failed(0, "Write a formula, such as item.estimate * 2.");
  if (text.length > 1_000) return failed(1_000, "A formula has at most 1,000 characters.");
  const signs = inSigns(text, vocabulary);
  const read = parseSigns(signs.text, vocabulary);
  return read.problem ? failed(signs.written(read.problem.at), read.problem.sentence) : read;
}

function parseSigns(text: string, vocabulary: Vocabulary): ReturnType<typeof parseFormula> {
  const failed = (at: number, sentence: string) => ({ formula: null, problem: { at, sentence } });
  const literal = literalProblem(text);
  if (literal) return failed(literal.at, literal.sentence);
  let parsed: ReturnType<typeof parse>;
  try {
    parsed = parse(text);
  } catch (error) {
    const at = (error as { location?: { start: { offset: number } } }).location?.start.offset ?? 0;
    return failed(Math.min(at, text.length), "The formula cannot be read from here on.");
  }
  const positions = parsed.sourceInfo?.positions ?? {};
  try {
    const formula = new Reader(vocabulary).number(parsed.expr!);
    if (operationsIn(formula) > MOST_OPERATIONS)
      return failed(0, `A formula has at most ${MOST_OPERATIONS} operations.`);
    return { formula, problem: null };
  } catch (error) {
    if (error instanceof Trouble)
      return failed((positions[String(error.exprId)] ?? 0) + error.into, error.message);
    throw error;
  }
}

class Reader {
  private readonly byText: Map<string, string>;

  constructor(private readonly vocabulary: Vocabulary) {
    this.byText = new Map(Object.entries(ITEM_NUMBERS).map(([field, text]) => [text, field]));
    for (const [fact, text] of factTexts(vocabulary)) {
      const own = ownFieldOf(fact);
      if (own && factOf(fact).kind === "number") this.byText.set(text, `own.${own.id}`);
    }
  }

  number(expr: Expr): Arithmetic {
    const { exprKind } = expr;
    if (exprKind.case === "constExpr") {
      const { case: kind, value } = exprKind.value.constantKind;
      if (kind === "int64Value" || kind === "uint64Value" || kind === "doubleValue")
        return { kind: "number", value: Number(value) };
      throw new Trouble(expr.id, "A number is wanted here.");
    }
    if (exprKind.case === "selectExpr") return this.field(expr, exprKind.value);
    if (exprKind.case === "callExpr") {
      const { function: name, args } = exprKind.value;
      if (name === "-_") return { kind: "negative", of: this.number(args[0]) };
      if (OPERATIONS[name])
        return { kind: OPERATIONS[name], left: this.number(args[0]), right: this.number(args[1]) };
      throw new Trouble(
        expr.id,
        `“${name.replaceAll("_", "")}” is not understood here: a formula adds, subtracts, multiplies and divides.`,
      );
    }
    throw new Trouble(expr.id, "A number is wanted here, such as item.estimate or 2.");
  }

  private field(
    expr: Expr,
    select: { operand?: Expr; field: string; testOnly: boolean },
  ): Arithmetic {
    const isItem =
      select.operand?.exprKind.case === "identExpr" &&
      select.operand.exprKind.value.name === "item" &&
      !select.testOnly;
    const field = isItem ? this.byText.get(select.field) : undefined;
    if (field) return { kind: "field", field };
    const known = [...factTexts(this.vocabulary)].find(([, text]) => text === select.field)?.[0];
    throw new Trouble(
      expr.id,
      known
        ? `“${factLabel(known, this.vocabulary)}” is no number that can be computed with.`
        : `An item has no number “${select.field}”.`,
      1,
    );
  }
}
