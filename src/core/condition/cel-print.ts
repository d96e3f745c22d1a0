import type { Comparison, Condition, ConditionValue, Operator } from "./condition";
import { factOf } from "./facts";
import { simplify } from "./simplify";
import { sprintText } from "./sprint-word";
import { factText, labelOf, type Vocabulary } from "./vocabulary";

/**
 * A condition in its text form, a subset of the Common Expression Language (cel-spec): `item.type
 * == "Bug" && item.days_in_state > 3.0`. What the project names is written by its name. `me`,
 * `my_teams` and `day(n)`, the date n days from today, are given by whoever evaluates it.
 */
export function printCel(condition: Condition, vocabulary: Vocabulary): string {
  return print(simplify(condition), { vocabulary, subject: "item" }, "nothing");
}

type Around = "nothing" | "any" | "all" | "not";

/** What facts are those of: the item, or what stands under or above it. */
interface Printing {
  vocabulary: Vocabulary;
  subject: "item" | "child" | "above";
}

/** How one of those around an item is called. */
const ONE_OF = { children: "child", parent: "above" } as const;

function print(condition: Condition, printing: Printing, around: Around): string {
  switch (condition.kind) {
    case "all":
      if (condition.of.length === 0) return "true";
      return wrap(
        condition.of.map((c) => print(c, printing, "all")).join(" && "),
        around === "not",
      );
    case "any":
      if (condition.of.length === 0) return "false";
      return wrap(
        condition.of.map((c) => print(c, printing, "any")).join(" || "),
        around === "all" || around === "not",
      );
    case "not":
      return `!${print(condition.of, printing, "not")}`;
    case "some": {
      const subject = ONE_OF[condition.among];
      const inner = simplify({ kind: "all", of: condition.of });
      const asked = print(inner, { ...printing, subject }, "nothing");
      return `${condition.among}.exists(${subject}, ${asked})`;
    }
    case "compare": {
      const { text, simple } = printComparison(condition, printing);
      return wrap(text, around === "not" && !simple);
    }
  }
}

const wrap = (text: string, brackets: boolean) => (brackets ? `(${text})` : text);

const SIGN = {
  is: "==",
  "is not": "!=",
  "at least": ">=",
  "at most": "<=",
  "more than": ">",
  "less than": "<",
} as const;

/** The methods of a text; `has_words` alone is not CEL's own. */
export const METHOD_OF: Partial<Record<Operator, string>> = {
  contains: "has_words",
  "contains exactly": "contains",
  "starts with": "startsWith",
  "ends with": "endsWith",
};

function printComparison(
  comparison: Comparison,
  printing: Printing,
): { text: string; simple: boolean } {
  const { fact, op, value } = comparison;
  const name = `${printing.subject}.${factText(fact, printing.vocabulary)}`;
  const { kind } = factOf(fact);
  if (op === "is set") return { text: `${name} != null`, simple: false };
  if (op === "is empty") return { text: `${name} == null`, simple: false };
  const literal = printValue(comparison, value!, printing);
  if (kind === "flag") return { text: value === true ? name : `!${name}`, simple: true };
  if (op === "counts at least" || op === "counts at most")
    return {
      text: `size(${name}) ${op === "counts at least" ? ">=" : "<="} ${literal}`,
      simple: false,
    };
  if (kind === "set")
    return {
      text: op === "contains" ? `${literal} in ${name}` : `!(${literal} in ${name})`,
      simple: op === "lacks",
    };
  if (op === "one of") return { text: `${name} in ${literal}`, simple: false };
  if (op === "none of") return { text: `!(${name} in ${literal})`, simple: true };
  const method = METHOD_OF[op];
  if (method) return { text: `${name}.${method}(${literal})`, simple: true };
  if (op === "lacks") return { text: `!${name}.has_words(${literal})`, simple: true };
  return { text: `${name} ${SIGN[op as keyof typeof SIGN]} ${literal}`, simple: false };
}

function printValue(
  { fact }: Comparison,
  value: ConditionValue,
  { vocabulary, subject }: Printing,
): string {
  if (Array.isArray(value))
    return `[${value.map((v) => quoted(labelOf(fact, v, vocabulary))).join(", ")}]`;
  if (typeof value === "object") {
    if ("day" in value) return value.day === 0 ? "day(0)" : `day(${value.day})`;
    if ("fact" in value) return `${subject}.${factText(value.fact, vocabulary)}`;
    if ("sprint" in value) return sprintText(value.sprint);
    return value.who === "me" ? "me" : "my_teams";
  }
  if (typeof value === "string")
    return quoted(factOf(fact).options === null ? value : labelOf(fact, value, vocabulary));
  if (typeof value === "number") return celNumber(value);
  return String(value);
}

/**
 * A number as CEL's double: with a point or an exponent, so that it is never taken for a whole
 * number of 64 bits.
 */
export function celNumber(value: number): string {
  const text = String(value);
  return /[.e]/.test(text) ? text : `${text}.0`;
}

/** A CEL string literal. */
function quoted(text: string): string {
  return JSON.stringify(text).replaceAll("\u2028", "\\u2028").replaceAll("\u2029", "\\u2029");
}
