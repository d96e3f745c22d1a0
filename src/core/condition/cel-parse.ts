import { parse } from "@bufbuild/cel";
import { distance } from "fastest-levenshtein";
import {
  comparisonProblem,
  comparisonsIn,
  DEEPEST,
  levelsIn,
  LONGEST_TEXT,
  MOST_COMPARISONS,
  operatorsFor,
  stepProblem,
  TOO_MANY_COMPARISONS,
  type Comparison,
  type Condition,
  type ConditionValue,
  type Operator,
} from "./condition";
import { factOf, type FactName } from "./facts";
import { METHOD_OF } from "./cel-print";
import { inSigns } from "./plain-words";
import { literalProblem } from "./cel-literals";
import { syntaxError, tokens } from "./cel-syntax";
import type { Among } from "./relatives";
import { simplify } from "./simplify";
import { SPRINT_WORDS, sprintText } from "./sprint-word";
import { factLabel, factText, factTexts, optionsOf, type Vocabulary } from "./vocabulary";

/** What is wrong with a text, and the character it is wrong at, counted from 0. */
export interface TextProblem {
  at: number;
  sentence: string;
  /** What was probably meant, to be put in place of the characters from `from` to `to`. */
  meant?: { from: number; to: number; insert: string };
}

export type ParsedText =
  { condition: Condition; problem: null } | { condition: null; problem: TextProblem };

type Expr = NonNullable<ReturnType<typeof parse>["expr"]>;

/** Where a comparison stands in the text, and its value in it. */
interface Compared {
  expr: Expr;
  valueExpr: Expr;
}

class Trouble extends Error {
  constructor(
    readonly exprId: bigint,
    sentence: string,
    /** So many characters into the expression. */
    readonly into = 0,
    /** A word in the text, and what was probably meant by it. */
    readonly meant?: { word: string; insert: string },
  ) {
    super(sentence);
  }
}

/**
 * Reads the text form that `printCel` writes, and what people write of the same subset by hand,
 * also with "and", "or" and the fields' own names. Comments are passed over.
 */
export function parseCel(text: string, vocabulary: Vocabulary): ParsedText {
  const signs = inSigns(text.slice(0, LONGEST_TEXT + 1), vocabulary);
  const { condition, problem } = parseSigns(signs.text, vocabulary);
  if (condition) return { condition, problem: null };
  const { at, sentence, meant } = problem;
  return {
    condition: null,
    problem: {
      at: signs.written(at),
      sentence,
      ...(meant && {
        meant: { ...meant, from: signs.written(meant.from), to: signs.written(meant.to) },
      }),
    },
  };
}

function parseSigns(text: string, vocabulary: Vocabulary): ParsedText {
  const failed = (at: number, sentence: string): ParsedText => ({
    condition: null,
    problem: { at, sentence },
  });
  if (text.length > LONGEST_TEXT)
    return failed(
      LONGEST_TEXT,
      `A condition has at most ${LONGEST_TEXT.toLocaleString("en")} characters.`,
    );
  if (tokens(text).length === 0) return { condition: { kind: "all", of: [] }, problem: null };
  const mistake = syntaxError(text) ?? literalProblem(text);
  if (mistake) return failed(mistake.at, mistake.sentence);
  let parsed: ReturnType<typeof parse>;
  try {
    // The parser knows no comment that ends with the text.
    parsed = parse(`${text}\n`);
  } catch (error) {
    const at = (error as { location?: { start: { offset: number } } }).location?.start.offset ?? 0;
    return failed(at, "This cannot be read as a condition.");
  }
  try {
    const condition = simplify(new Reader(vocabulary).condition(parsed.expr!));
    const further = stepProblem(condition);
    if (further) return failed(0, further);
    if (comparisonsIn(condition) > MOST_COMPARISONS) return failed(0, TOO_MANY_COMPARISONS);
    return levelsIn(condition) > DEEPEST
      ? failed(0, `A condition has at most ${DEEPEST} groups inside each other.`)
      : { condition, problem: null };
  } catch (error) {
    if (error instanceof Trouble) {
      const position = parsed.sourceInfo?.positions[String(error.exprId)] ?? 0;
      const at = placeOf(text, position + error.into);
      return {
        condition: null,
        problem: { at, sentence: error.message, ...meantAt(text, at, error) },
      };
    }
    throw error;
  }
}

function meantAt(text: string, at: number, { meant }: Trouble): Pick<TextProblem, "meant"> {
  const from = meant ? text.indexOf(meant.word, at) : -1;
  return meant && from >= 0
    ? { meant: { from, to: from + meant.word.length, insert: meant.insert } }
    : {};
}

/** The parser's place of a word such as "in" is the space before it. */
const placeOf = (text: string, at: number) => at + /^\s*/.exec(text.slice(at))![0].length;

const OPERATOR_OF: Record<string, Operator> = {
  "_==_": "is",
  "_!=_": "is not",
  "_>=_": "at least",
  "_<=_": "at most",
  "_>_": "more than",
  "_<_": "less than",
};
/** The same comparison with its sides exchanged. */
const MIRRORED: Partial<Record<Operator, Operator>> = {
  "at least": "at most",
  "at most": "at least",
  "more than": "less than",
  "less than": "more than",
};

/** The operators by the methods that a text has. */
const METHODS = Object.fromEntries(
  Object.entries(METHOD_OF).map(([op, method]) => [method, op as Operator]),
);

type Loop = Extract<Expr["exprKind"], { case: "comprehensionExpr" }>["value"];

type Side = { fact: FactName } | { size: FactName } | { value: ConditionValue | null };

/** What stands around an item, and how one of them is called. */
const RELATIVES: Record<string, { among: Among; like: string }> = {
  children: { among: "children", like: "child" },
  parent: { among: "parent", like: "above" },
};

class Reader {
  private readonly byText: Map<string, FactName>;
  /** What facts are those of just now: the item, or one of those around it, as it is called there. */
  private subject = "item";

  constructor(private readonly vocabulary: Vocabulary) {
    this.byText = new Map([...factTexts(vocabulary)].map(([name, text]) => [text, name]));
  }

  condition(expr: Expr): Condition {
    const { exprKind } = expr;
    if (exprKind.case === "constExpr" && exprKind.value.constantKind.case === "boolValue")
      return exprKind.value.constantKind.value ? { kind: "all", of: [] } : { kind: "any", of: [] };
    if (exprKind.case === "selectExpr")
      return exprKind.value.testOnly
        ? this.presence(expr, exprKind.value.operand!, exprKind.value.field)
        : this.flag(expr);
    if (exprKind.case === "comprehensionExpr") return this.relatives(expr, exprKind.value);
    if (exprKind.case !== "callExpr")
      throw new Trouble(expr.id, "A comparison is wanted here, such as item.estimate > 3.");
    const { function: name, args, target } = exprKind.value;
    if (name === "_&&_" || name === "_||_")
      return { kind: name === "_&&_" ? "all" : "any", of: args.map((a) => this.condition(a)) };
    if (name === "!_") return { kind: "not", of: this.condition(args[0]) };
    if (name === "@in" || name === "_in_") return this.membership(expr, args);
    if (name in OPERATOR_OF) return this.comparison(expr, OPERATOR_OF[name], args);
    if (Object.hasOwn(METHODS, name) && target) {
      if (args.length !== 1) throw new Trouble(expr.id, `${name}() takes one text.`);
      return this.compare(
        { expr, valueExpr: args[0] },
        this.fact(target),
        METHODS[name],
        this.value(args[0]),
      );
    }
    const word = /^[a-z]/i.test(name) ? `${name}()` : name.replaceAll("_", "");
    throw new Trouble(expr.id, `“${word}” is not understood here.`);
  }

  /**
   * `children.exists(child, child.state == "Live")` and `children.all(…)`, which the parser has spelt
   * out as a loop over them: what is asked of each stands beside what was found so far.
   */
  private relatives(expr: Expr, { iterRange, iterVar, loopStep }: Loop): Condition {
    const range = iterRange?.exprKind;
    const found = range?.case === "identExpr" ? RELATIVES[range.value.name] : undefined;
    if (!found)
      throw new Trouble(
        iterRange?.id ?? expr.id,
        "Only of children and parent can it be asked which of them are like something.",
      );
    const step = loopStep?.exprKind;
    const call = step?.case === "callExpr" ? step.value : undefined;
    const every = call?.function === "_&&_";
    if (!call || (!every && call.function !== "_||_"))
      throw new Trouble(expr.id, "Of children and parent it can be asked with exists() and all().");
    if (this.subject !== "item")
      throw new Trouble(expr.id, "Of children and parents no further ones can be asked.");
    this.subject = iterVar;
    const asked = this.condition(call.args[1]);
    this.subject = "item";
    const { among } = found;
    if (!every) return { kind: "some", among, of: [asked] };
    return { kind: "not", of: { kind: "some", among, of: [{ kind: "not", of: asked }] } };
  }

  /** `has(item.severity)`: the fact has a value. */
  private presence(expr: Expr, operand: Expr, field: string): Condition {
    const fact = this.named(operand, field, operand, this.subject.length + 1);
    if (!operatorsFor(fact).includes("is set"))
      throw new Trouble(expr.id, `“${factLabel(fact, this.vocabulary)}” is never empty.`);
    return { kind: "compare", fact, op: "is set", value: null };
  }

  private flag(expr: Expr): Condition {
    const fact = this.fact(expr);
    if (factOf(fact).kind !== "flag")
      throw new Trouble(
        expr.id,
        `“${factLabel(fact, this.vocabulary)}” is compared with something, such as == or >.`,
        1,
      );
    return { kind: "compare", fact, op: "is", value: true };
  }

  private membership(expr: Expr, [left, right]: Expr[]): Condition {
    const [a, b] = [this.side(left), this.side(right)];
    if ("fact" in a && "value" in b)
      return this.compare({ expr, valueExpr: right }, a.fact, "one of", b.value);
    if ("fact" in b && factOf(b.fact).kind === "text")
      throw new Trouble(
        expr.id,
        `“in” looks into a list. Write item.${factText(b.fact, this.vocabulary)}.contains("…").`,
      );
    if ("fact" in b && "value" in a)
      return this.compare({ expr, valueExpr: left }, b.fact, "contains", a.value);
    throw new Trouble(expr.id, "“in” stands between a fact and a list.");
  }

  private comparison(expr: Expr, op: Operator, [left, right]: Expr[]): Condition {
    const [a, b] = [this.side(left), this.side(right)];
    if ("size" in a && "value" in b)
      return this.size({ expr, valueExpr: right }, a.size, op, b.value);
    if ("size" in b && "value" in a)
      return this.size({ expr, valueExpr: left }, b.size, MIRRORED[op] ?? op, a.value);
    if ("fact" in a && "fact" in b)
      return this.compare({ expr, valueExpr: right }, a.fact, op, { fact: b.fact });
    if ("fact" in a && "value" in b)
      return this.compare({ expr, valueExpr: right }, a.fact, op, b.value);
    if ("fact" in b && "value" in a)
      return this.compare({ expr, valueExpr: left }, b.fact, MIRRORED[op] ?? op, a.value);
    throw new Trouble(
      expr.id,
      'A fact is compared with a value or another fact, such as item.priority == "high".',
    );
  }

  /** `size(item.labels) > 1`: counts are whole, so that two comparisons say them all. */
  private size(
    { expr, valueExpr }: Compared,
    fact: FactName,
    op: Operator,
    value: ConditionValue | null,
  ): Condition {
    if (typeof value !== "number" || !Number.isInteger(value))
      throw new Trouble(valueExpr.id, "A size is compared with a whole number.");
    const atLeast = (n: number) => this.compare({ expr, valueExpr }, fact, "counts at least", n);
    const atMost = (n: number) => this.compare({ expr, valueExpr }, fact, "counts at most", n);
    if (op === "at least") return atLeast(value);
    if (op === "more than") return atLeast(value + 1);
    if (op === "at most") return atMost(value);
    if (op === "less than") return atMost(value - 1);
    if (op === "is") return { kind: "all", of: [atLeast(value), atMost(value)] };
    return value === 0 ? atLeast(1) : { kind: "any", of: [atMost(value - 1), atLeast(value + 1)] };
  }

  private compare(
    { expr, valueExpr }: Compared,
    fact: FactName,
    op: Operator,
    value: ConditionValue | null,
  ): Comparison {
    if (value === null) {
      if (!operatorsFor(fact).includes("is set"))
        throw new Trouble(valueExpr.id, `“${factLabel(fact, this.vocabulary)}” is never empty.`);
      if (op === "is" || op === "is not")
        return { kind: "compare", fact, op: op === "is" ? "is empty" : "is set", value: null };
      throw new Trouble(valueExpr.id, "Nothing is more or less than null.");
    }
    if (factOf(fact).kind === "flag" && op === "is not" && typeof value === "boolean")
      return { kind: "compare", fact, op: "is", value: !value };
    if (!operatorsFor(fact).includes(op))
      throw new Trouble(
        expr.id,
        `“${factLabel(fact, this.vocabulary)}” cannot be asked with “${op}”.`,
      );
    const comparison: Comparison = {
      kind: "compare",
      fact,
      op,
      value: this.identified(fact, value, valueExpr),
    };
    const problem = comparisonProblem(comparison);
    // A fact's place is that of its dot.
    if (problem)
      throw new Trouble(valueExpr.id, problem, valueExpr.exprKind.case === "selectExpr" ? 1 : 0);
    return comparison;
  }

  /** Names become the ids of what is called so. */
  private identified(fact: FactName, value: ConditionValue, expr: Expr): ConditionValue {
    const from = factOf(fact).options;
    if (from === null || Array.isArray(from) || typeof value === "number") return value;
    const options = optionsOf(fact, this.vocabulary);
    const idOf = (label: string, at = expr) => {
      const found = options.find((o) => o.label === label) ?? options.find((o) => o.id === label);
      if (found) return found.id;
      const what =
        from === "people" ? "person" : typeof from === "string" ? from.replace(/s$/, "") : "choice";
      const meant = nearest(label, [...options.map((o) => o.label)]);
      throw new Trouble(
        at.id,
        `No ${what} is called “${label}”.${meant ? ` Did you mean “${meant}”?` : ""}`,
        0,
        meant ? { word: label, insert: meant } : undefined,
      );
    };
    if (typeof value === "string") return idOf(value);
    const { exprKind } = expr;
    const elements = exprKind.case === "listExpr" ? exprKind.value.elements : [];
    if (Array.isArray(value)) return value.map((label, i) => idOf(label, elements[i]));
    return value;
  }

  private side(expr: Expr): Side {
    const { exprKind } = expr;
    if (exprKind.case === "selectExpr") return { fact: this.fact(expr) };
    if (exprKind.case === "callExpr" && exprKind.value.function === "size") {
      const of = exprKind.value.target ?? exprKind.value.args[0];
      if (!of || exprKind.value.args.length + (exprKind.value.target ? 1 : 0) !== 1)
        throw new Trouble(expr.id, "size() takes one fact, such as size(item.labels).");
      return { size: this.fact(of) };
    }
    return { value: this.value(expr) };
  }

  private fact(expr: Expr): FactName {
    const { exprKind } = expr;
    if (exprKind.case === "selectExpr" && !exprKind.value.testOnly) {
      const { operand, field } = exprKind.value;
      return this.named(operand!, field, expr, 1);
    }
    throw new Trouble(expr.id, `A fact of the item is wanted here, such as ${this.subject}.type.`);
  }

  /**
   * The fact of a name after `item.`. @param at the expression, and how far into it the name stands
   */
  private named(operand: Expr, field: string, at: Expr, into: number): FactName {
    const of = operand.exprKind.case === "identExpr" ? operand.exprKind.value.name : null;
    if (of !== this.subject && of === "item")
      throw new Trouble(
        operand.id,
        `Here it is about ${this.subject}: write ${this.subject}.${field}.`,
        0,
        { word: "item", insert: this.subject },
      );
    if (of !== this.subject)
      throw new Trouble(at.id, `A fact of the item is wanted here, such as ${this.subject}.type.`);
    const name = this.byText.get(field);
    if (name) return name;
    const meant = nearest(field, [...this.byText.keys()]);
    throw new Trouble(
      at.id,
      `An item has no “${field}”.${meant ? ` Did you mean item.${meant}?` : ""}`,
      into,
      meant ? { word: field, insert: meant } : undefined,
    );
  }

  private value(expr: Expr): ConditionValue | null {
    const { exprKind } = expr;
    if (exprKind.case === "constExpr") {
      const { case: kind, value } = exprKind.value.constantKind;
      if (kind === "nullValue") return null;
      if (kind === "int64Value" || kind === "uint64Value" || kind === "doubleValue")
        return Number(value);
      if (kind === "stringValue" || kind === "boolValue") return value;
    }
    if (exprKind.case === "identExpr") {
      if (exprKind.value.name === "me") return { who: "me" };
      if (exprKind.value.name === "my_teams") return { who: "my teams" };
      const sprint = SPRINT_WORDS.find((word) => exprKind.value.name === sprintText(word));
      if (sprint) return { sprint };
      throw new Trouble(
        expr.id,
        `“${exprKind.value.name}” is not known. Texts stand in quotation marks.`,
      );
    }
    if (exprKind.case === "listExpr")
      return exprKind.value.elements.map((e) => {
        const value = this.value(e);
        if (typeof value !== "string")
          throw new Trouble(e.id, "A list holds texts in quotation marks.");
        return value;
      });
    if (
      exprKind.case === "callExpr" &&
      exprKind.value.function === "day" &&
      exprKind.value.args.length === 1
    ) {
      const day = this.value(exprKind.value.args[0]);
      if (typeof day === "number" && Number.isInteger(day)) return { day };
      throw new Trouble(
        exprKind.value.args[0].id,
        "day() takes a whole number of days from today.",
      );
    }
    throw new Trouble(
      expr.id,
      "A value is wanted here: a text, a number, null, a list, me or day(7).",
    );
  }
}

/** The known word that a mistyped one is nearest to; null where none is near. */
function nearest(word: string, known: readonly string[]): string | null {
  if (known.length === 0) return null;
  const typed = word.toLowerCase();
  const near = (name: string) => distance(typed, name.toLowerCase());
  const best = known.reduce((a, b) => (near(b) < near(a) ? b : a));
  return near(best) <= Math.max(1, typed.length / 3) ? best : null;
}
