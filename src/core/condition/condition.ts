import { z } from "zod";
import { isShown } from "@/core/item/own-field";
import { factOf, isFactName, ownFieldOf, type FactName } from "./facts";
import { AMONG, type Among } from "./relatives";
import { meansSeveral, SPRINT_WORDS, type SprintWord } from "./sprint-word";

/**
 * What a fact is compared with. `me` and `my teams` are whoever asks; a day is counted from today,
 * a sprint from the one that runs; another fact is the same item's.
 */
export type ConditionValue =
  | string
  | number
  | boolean
  | string[]
  | { who: "me" | "my teams" }
  | { day: number }
  | { sprint: SprintWord }
  | { fact: FactName };

export const OPERATORS = [
  "is",
  "is not",
  "one of",
  "none of",
  "at least",
  "at most",
  "more than",
  "less than",
  "contains",
  "lacks",
  "contains exactly",
  "starts with",
  "ends with",
  "counts at least",
  "counts at most",
  "is set",
  "is empty",
] as const;
export type Operator = (typeof OPERATORS)[number];

export interface Comparison {
  kind: "compare";
  fact: FactName;
  op: Operator;
  /** Null only with "is set" and "is empty". */
  value: ConditionValue | null;
}

/**
 * Which items are meant. One structure for board scopes, lanes, filters, requirements, automations
 * and targets. All of nothing is every item, any of nothing is none. `some` holds where all of it
 * does for at least one child, or for the parent; it goes one step only.
 */
export type Condition =
  | { kind: "all"; of: Condition[] }
  | { kind: "any"; of: Condition[] }
  | { kind: "not"; of: Condition }
  | { kind: "some"; among: Among; of: Condition[] }
  | Comparison;

export const EVERY_ITEM: Condition = { kind: "all", of: [] };

/** The operators that a kind of fact understands. */
const BY_KIND = {
  choice: ["is", "is not", "one of", "none of", "is set", "is empty"],
  number: ["at least", "at most", "more than", "less than", "is", "is not", "is set", "is empty"],
  text: [
    "is",
    "is not",
    "contains",
    "lacks",
    "contains exactly",
    "starts with",
    "ends with",
    "counts at least",
    "counts at most",
    "is set",
    "is empty",
  ],
  date: ["is", "is not", "at least", "at most", "more than", "less than", "is set", "is empty"],
  flag: ["is"],
  set: ["contains", "lacks", "counts at least", "counts at most"],
} as const satisfies Record<string, readonly Operator[]>;

/** The ways in which a fact can be compared; only what may be empty can be asked whether it is. */
export function operatorsFor(fact: FactName): readonly Operator[] {
  const { kind, nullable } = factOf(fact);
  return BY_KIND[kind].filter((op) => nullable || (op !== "is set" && op !== "is empty"));
}

/** Which ways a fact can be compared with another fact of the item. */
const BETWEEN_FACTS: Partial<Record<string, readonly Operator[]>> = {
  choice: ["is", "is not"],
  text: ["is", "is not"],
  number: ["is", "is not", "at least", "at most", "more than", "less than"],
  date: ["is", "is not", "at least", "at most", "more than", "less than"],
};

/** The other fact that a comparison is with; null when it is with a value. */
export function otherFact({ value }: Pick<Comparison, "value">): FactName | null {
  return typeof value === "object" && value !== null && !Array.isArray(value) && "fact" in value
    ? value.fact
    : null;
}

/** Why two facts cannot be compared; null when they can. */
function betweenProblem(fact: FactName, op: Operator, other: FactName): string | null {
  const [a, b] = [factOf(fact), factOf(other)];
  if (fact === other) return `“${a.label}” is compared with itself.`;
  if (!BETWEEN_FACTS[a.kind]?.includes(op))
    return `“${a.label} ${op}” cannot be asked of another fact.`;
  const sameOptions = JSON.stringify(a.options) === JSON.stringify(b.options);
  return a.kind === b.kind && sameOptions
    ? null
    : `“${a.label}” and “${b.label}” are not the same kind of thing.`;
}

/** The facts that a fact can be compared with in some way. */
export function comparableWith(fact: FactName, op: Operator, all: readonly FactName[]): FactName[] {
  return all.filter((other) => betweenProblem(fact, op, other) === null);
}

const MOST_COUNTED = 100_000;

const isDate = (text: string) => z.iso.date().safeParse(text).success;

/** Why a comparison makes no sense; null when it does. */
export function comparisonProblem({ fact, op, value }: Comparison): string | null {
  const { kind, label, options } = factOf(fact);
  if (!operatorsFor(fact).includes(op)) return `“${label}” cannot be asked with “${op}”.`;
  if (op === "is set" || op === "is empty")
    return value === null ? null : `“${op}” takes no value.`;
  if (value === null) return `“${label} ${op}” needs a value.`;
  const other = otherFact({ value });
  if (other !== null) return betweenProblem(fact, op, other);
  if (op === "counts at least" || op === "counts at most")
    return typeof value === "number" &&
      Number.isInteger(value) &&
      value >= 0 &&
      value <= MOST_COUNTED
      ? null
      : `A size is a whole number from 0 to ${MOST_COUNTED.toLocaleString("en")}.`;
  const sprint = typeof value === "object" && !Array.isArray(value) && "sprint" in value;
  const person = typeof value === "object" && !Array.isArray(value) && "who" in value;
  if (kind === "number")
    return typeof value === "number" && Number.isFinite(value)
      ? null
      : `“${label}” is compared with a number.`;
  if (kind === "flag") return typeof value === "boolean" ? null : `“${label}” is true or false.`;
  if (kind === "date") {
    const relative = typeof value === "object" && !Array.isArray(value) && "day" in value;
    return relative || (typeof value === "string" && isDate(value))
      ? null
      : `“${label}” is compared with a date or a day counted from today.`;
  }
  if (kind === "text" || kind === "set")
    return typeof value === "string" && value !== ""
      ? known(fact, [value])
      : `“${label}” is compared with a text.`;
  if (op === "one of" || op === "none of") {
    if (person)
      return options === "teams" && value.who === "my teams"
        ? null
        : `“${label}” is compared with a list.`;
    if (sprint)
      return options === "sprints" && meansSeveral(value.sprint)
        ? null
        : `“${label}” is compared with a list.`;
    return Array.isArray(value) && value.length > 0 && !value.includes("")
      ? known(fact, value)
      : `“${label} ${op}” needs at least one value.`;
  }
  if (person)
    return options === "people" && value.who === "me" ? null : `“${label}” cannot be you.`;
  if (sprint) {
    if (options !== "sprints") return `“${label}” is no sprint.`;
    return meansSeveral(value.sprint) ? `“${label}” is one of them; it cannot be all.` : null;
  }
  return typeof value === "string" && value !== ""
    ? known(fact, [value])
    : `“${label}” is compared with one value.`;
}

function known(fact: FactName, values: readonly string[]): string | null {
  const { options, label } = factOf(fact);
  if (!Array.isArray(options)) return null;
  const strange = values.find((v) => !options.includes(v));
  return strange === undefined
    ? null
    : `${label} is never “${strange}”. It is ${options.join(", ")}.`;
}

const factName = z
  .string()
  .max(100)
  .refine(isFactName, "There is no such fact.") as unknown as z.ZodType<FactName>;

const comparison = z
  .object({
    kind: z.literal("compare"),
    fact: factName,
    op: z.enum(OPERATORS),
    value: z.union([
      z.string().max(300),
      z.number(),
      z.boolean(),
      z.array(z.string().max(300)).max(100),
      z.object({ who: z.enum(["me", "my teams"]) }),
      z.object({ sprint: z.enum(SPRINT_WORDS) }),
      z.object({ day: z.number().int().min(-3650).max(3650) }),
      z.object({ fact: factName }),
      z.null(),
    ]),
  })
  .superRefine((c, context) => {
    const problem = isFactName(c.fact) ? comparisonProblem(c) : null;
    if (problem) context.addIssue({ code: "custom", message: problem });
  });

/**
 * A condition asks no more than this of an item: whoever reads it loses the thread long before, and
 * each costs time.
 */
export const MOST_COMPARISONS = 100;
export const TOO_MANY_COMPARISONS = `A condition has at most ${MOST_COMPARISONS} comparisons.`;

/** How many groups a condition may have inside each other. */
export const DEEPEST = 8;

function nested(depth: number): z.ZodType<Condition> {
  if (depth === 0) return comparison;
  const inner = z.lazy(() => nested(depth - 1));
  return z.discriminatedUnion("kind", [
    z.object({ kind: z.literal("all"), of: z.array(inner).max(MOST_COMPARISONS) }),
    z.object({ kind: z.literal("any"), of: z.array(inner).max(MOST_COMPARISONS) }),
    z.object({ kind: z.literal("not"), of: inner }),
    z.object({
      kind: z.literal("some"),
      among: z.enum(AMONG),
      of: z.array(inner).max(MOST_COMPARISONS),
    }),
    comparison,
  ]) as z.ZodType<Condition>;
}

/** How many groups stand inside each other; a comparison is none. */
export function levelsIn(condition: Condition): number {
  if (condition.kind === "compare") return 0;
  const parts = condition.kind === "not" ? [condition.of] : condition.of;
  return 1 + Math.max(0, ...parts.map(levelsIn));
}

/** How many comparisons a condition has in all its parts. */
export function comparisonsIn(condition: Condition): number {
  if (condition.kind === "compare") return 1;
  const parts = condition.kind === "not" ? [condition.of] : condition.of;
  return parts.reduce((sum, part) => sum + comparisonsIn(part), 0);
}

/**
 * Why a condition goes further than it can: past the children or the parent, or into what is worked
 * out for a list; null where it does not.
 */
export function stepProblem(condition: Condition, beyond = false): string | null {
  if (condition.kind === "compare")
    return beyond && condition.fact === "promise"
      ? "How promises stand cannot be asked of children and parents."
      : null;
  const steps = condition.kind === "some";
  if (steps && beyond) return "Of children and parents no further ones can be asked.";
  const parts = condition.kind === "not" ? [condition.of] : condition.of;
  for (const part of parts) {
    const problem = stepProblem(part, beyond || steps);
    if (problem) return problem;
  }
  return null;
}

/** Whether a condition asks what other items are, directly under or above one. */
export const asksRelatives = (condition: Condition): boolean => {
  if (condition.kind === "compare") return false;
  const parts = condition.kind === "not" ? [condition.of] : condition.of;
  return condition.kind === "some" || parts.some(asksRelatives);
};

/** A condition from outside; at most eight levels deep, with a bounded number of comparisons. */
export const conditionSchema: z.ZodType<Condition> = nested(DEEPEST)
  .refine((c) => comparisonsIn(c) <= MOST_COMPARISONS, TOO_MANY_COMPARISONS)
  .superRefine((c, context) => {
    const problem = stepProblem(c);
    if (problem) context.addIssue({ code: "custom", message: problem });
  });

/** The longest text that a condition is read from. */
export const LONGEST_TEXT = 4_000;

/** A condition as text that cannot be read yet: it stays as it was typed, and holds for no item. */
export interface UnreadText {
  kind: "unread";
  text: string;
}

/** A condition while somebody writes it, in a draft or a form. */
export type WrittenCondition = Condition | UnreadText;

/** Whether a condition is finished, so that it can be asked. */
export const isRead = (condition: WrittenCondition): condition is Condition =>
  condition.kind !== "unread";

/** A condition in a draft, from outside: finished, or as far as it was typed. */
export const writtenConditionSchema: z.ZodType<WrittenCondition> = z.union([
  conditionSchema,
  z.object({ kind: z.literal("unread"), text: z.string().max(LONGEST_TEXT) }),
]);

/** Whether a condition is about whoever looks: what is the same for everybody cannot be. */
export function asksWhoLooks(condition: Condition): boolean {
  if (condition.kind === "compare")
    return (
      condition.fact === "followed" ||
      (typeof condition.value === "object" && condition.value !== null && "who" in condition.value)
    );
  return (condition.kind === "not" ? [condition.of] : condition.of).some(asksWhoLooks);
}

/**
 * Whether a condition asks how promises stand: that is worked out for whoever looks at a list, and
 * is no ground for rules, promises and limits.
 */
export const asksPromise = (condition: Condition): boolean => factsIn(condition).has("promise");

/** Facts of time, of the past, of other items and of what happens outside. */
const CHANGE_BY_THEMSELVES: ReadonlySet<FactName> = new Set<FactName>([
  "age",
  "daysInState",
  "daysSinceCreated",
  "daysBlocked",
  "daysReady",
  "everIn",
  "children",
  "openChildren",
  "links",
  "waitsFor",
  "waitedFor",
  "followed",
  "followers",
  "votes",
  "promise",
  "openChanges",
  "mergedChanges",
  "checks",
  "testResult",
  "deployedTo",
]);

/**
 * Whether items can come to be meant by a condition, or not any more, without a command on them: by
 * time, by what happens to others or outside.
 */
export function changesByItself(condition: Condition): boolean {
  if (condition.kind === "some") return true;
  if (condition.kind !== "compare")
    return (condition.kind === "not" ? [condition.of] : condition.of).some(changesByItself);
  const { value } = condition;
  const counted =
    typeof value === "object" && value !== null && ("day" in value || "sprint" in value);
  return counted || [...factsIn(condition)].some((fact) => CHANGE_BY_THEMSELVES.has(fact));
}

/** Facts of what stands around an item: other items, and where it has been. */
const AROUND: ReadonlySet<FactName> = new Set<FactName>([
  "everIn",
  "children",
  "openChildren",
  "links",
  "waitsFor",
  "waitedFor",
]);

/** Whether a condition asks for what stands around an item, and not only for the item itself. */
export const looksAround = (condition: Condition): boolean =>
  [...factsIn(condition)].some((fact) => {
    const own = ownFieldOf(fact);
    return AROUND.has(fact) || (own !== null && isShown(own.kind));
  });

/**
 * Whether some facts say what others say: values shown from linked items, and what children and
 * parents are. A change of an item can change them of any other.
 */
export const sayWhatOthersDo = (facts: Iterable<FactName>): boolean =>
  [...facts].some((fact) => {
    const own = ownFieldOf(fact);
    return fact === "links" || (own !== null && isShown(own.kind));
  });

/**
 * The facts that a condition asks for. What it asks of children or a parent is besides a fact of how
 * the item is linked: no card says it, and it changes by itself.
 */
export function factsIn(condition: Condition): Set<FactName> {
  if (condition.kind === "compare")
    return new Set([condition.fact, otherFact(condition) ?? condition.fact]);
  const parts = condition.kind === "not" ? [condition.of] : condition.of;
  const facts = new Set(parts.flatMap((c) => [...factsIn(c)]));
  return condition.kind === "some" ? facts.add("links") : facts;
}
