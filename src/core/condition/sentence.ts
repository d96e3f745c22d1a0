import { counted } from "@/core/formats/counted";
import {
  isRead,
  type Comparison,
  type Condition,
  type ConditionValue,
  type Operator,
  type WrittenCondition,
} from "./condition";
import { factOf, ownFieldOf } from "./facts";
import { denies } from "./chain";
import { simplify } from "./simplify";
import { sprintEnding } from "./sprint-word";
import { factLabel, factUnit, labelOf, type Vocabulary } from "./vocabulary";

/**
 * A condition as a plain sentence without its subject: "the type is Bug and it has been in its
 * state for more than 3 days".
 */
export function conditionSentence(condition: Condition, vocabulary: Vocabulary): string {
  switch (condition.kind) {
    case "all":
      return condition.of.length === 0 ? "it is any item" : joined(condition.of, "and", vocabulary);
    case "any":
      return condition.of.length === 0
        ? "it is no item at all"
        : joined(condition.of, "or", vocabulary);
    case "not": {
      const { of } = condition;
      if (of.kind === "some") return noneSentence(of, vocabulary);
      return `it is not so that ${bracketed(of, vocabulary)}`;
    }
    case "some":
      return `${SOME[condition.among]} ${relativeWords(condition.of, vocabulary)}`;
    case "compare":
      return comparisonSentence(condition, vocabulary);
  }
}

type OfRelatives = Extract<Condition, { kind: "some" }>;

const SOME = {
  children: "for at least one of its children,",
  parent: "for what it stands under,",
} as const;

const relativeWords = (of: readonly Condition[], vocabulary: Vocabulary): string =>
  conditionSentence({ kind: "all", of: [...of] }, vocabulary);

/** That none of them is so; of those that are not so: that all of them are. */
function noneSentence({ among, of }: OfRelatives, vocabulary: Vocabulary): string {
  const [only] = of;
  if (of.length === 1 && among === "children" && denies(only)) {
    const all = simplify({ kind: "not", of: only });
    return `for all of its children, ${conditionSentence(all, vocabulary)}`;
  }
  const words = relativeWords(of, vocabulary);
  return among === "children"
    ? `for none of its children, ${words}`
    : `it stands under nothing for which ${words}`;
}

/** A condition that may still be unfinished, as a sentence. */
export function writtenSentence(condition: WrittenCondition, vocabulary: Vocabulary): string {
  return isRead(condition)
    ? conditionSentence(condition, vocabulary)
    : `“${condition.text}” holds, which is not finished`;
}

function joined(parts: readonly Condition[], word: "and" | "or", vocabulary: Vocabulary): string {
  if (parts.length === 1) return conditionSentence(parts[0], vocabulary);
  return parts.map((p) => bracketed(p, vocabulary)).join(` ${word} `);
}

/** Brackets where "and" and "or" would otherwise run into each other. */
function bracketed(condition: Condition, vocabulary: Vocabulary): string {
  const words = conditionSentence(condition, vocabulary);
  return condition.kind === "some" ||
    ((condition.kind === "all" || condition.kind === "any") && condition.of.length > 1)
    ? `(${words})`
    : words;
}

function valueWords({ fact }: Comparison, value: ConditionValue, vocabulary: Vocabulary): string {
  if (Array.isArray(value)) return list(value.map((v) => labelOf(fact, v, vocabulary)));
  if (typeof value === "object") {
    if ("who" in value) return value.who;
    if ("fact" in value) return `the ${factLabel(value.fact, vocabulary)}`;
    if ("sprint" in value) return sprintEnding(value.sprint);
    if (value.day === 0) return "today";
    const days = Math.abs(value.day) === 1 ? "1 day" : `${Math.abs(value.day)} days`;
    return value.day > 0 ? `${days} from today` : `${days} ago`;
  }
  if (typeof value === "string" && factOf(fact).options !== null)
    return labelOf(fact, value, vocabulary);
  if (typeof value === "string" && ["text", "set"].includes(factOf(fact).kind)) return `“${value}”`;
  const unit = factUnit(fact, vocabulary);
  if (unit === "days") return counted(Number(value), "day");
  return unit ? `${value} ${unit}` : String(value);
}

function list(words: readonly string[]): string {
  return words.length < 2 ? words.join("") : `${words.slice(0, -1).join(", ")} or ${words.at(-1)}`;
}

const NUMBER_WORDS: Partial<Record<Operator, string>> = {
  "at least": "at least",
  "at most": "at most",
  "more than": "more than",
  "less than": "less than",
};
const DATE_WORDS: Partial<Record<Operator, string>> = {
  "at least": "is not before",
  "at most": "is not after",
  "more than": "is after",
  "less than": "is before",
};

function comparisonSentence(comparison: Comparison, vocabulary: Vocabulary): string {
  const { fact, op, value } = comparison;
  const { kind } = factOf(fact);
  const label = factLabel(fact, vocabulary);
  if (op === "is set") return `the ${label} is set`;
  if (op === "is empty") return `the ${label} is not set`;
  const words = valueWords(comparison, value!, vocabulary);
  if (op === "counts at least" || op === "counts at most")
    return countSentence(comparison, label, vocabulary);
  if (kind === "choice" && typeof value === "object" && value !== null && "fact" in value)
    return `the ${label} is ${op === "is" ? "the same as" : "not the same as"} ${words}`;
  if (fact === "everIn")
    return op === "contains" ? `it was ever in ${words}` : `it was never in ${words}`;
  if (fact === "links")
    return op === "contains"
      ? `a link says that it ${words} another item`
      : `no link says that it ${words} another item`;
  if (fact === "deployedTo")
    return op === "contains" ? `it was deployed to ${words}` : `it was not deployed to ${words}`;
  if (kind === "flag" && ownFieldOf(fact)) return `${label} is ${value === true ? "yes" : "no"}`;
  if (kind === "flag") return value === true ? `it is ${label}` : `it is not ${label}`;
  if (op === "one of") return `the ${label} is ${words}`;
  if (op === "none of") return `the ${label} is not ${words}`;
  if (kind === "set") return `the ${label} ${op === "contains" ? "" : "do not "}contain ${words}`;
  if (op === "contains" || op === "contains exactly")
    return `the ${label} contains ${op === "contains" ? "" : "exactly "}${words}`;
  if (op === "starts with" || op === "ends with")
    return `the ${label} ${op === "starts with" ? "begins" : "ends"} with ${words}`;
  if (op === "lacks") return `the ${label} does not contain ${words}`;
  if (kind === "date" && DATE_WORDS[op]) return `the ${label} ${DATE_WORDS[op]} ${words}`;
  if (kind === "number" && typeof value === "number")
    return numberSentence(fact, op, value, { label, words });
  if (kind === "number")
    return `the ${label} is ${op === "is" ? "the same as" : op === "is not" ? "not the same as" : NUMBER_WORDS[op]} ${words}`;
  return `the ${label} ${op} ${words}`;
}

/** How many values of a set, or letters of a text, there are. */
function countSentence(
  { fact, op, value }: Comparison,
  label: string,
  vocabulary: Vocabulary,
): string {
  const amount = `${op === "counts at least" ? "at least" : "at most"} ${value as number}`;
  const one = value === 1;
  if (factOf(fact).kind === "text")
    return `the ${label} has ${amount} ${one ? "letter" : "letters"}`;
  if (fact === "everIn") return `it was ever in ${amount} ${one ? "state" : "states"}`;
  if (fact === "links") return `it has ${amount} ${one ? "kind" : "kinds"} of link`;
  if (fact === "labels") return `it has ${amount} ${one ? "label" : "labels"}`;
  if (fact === "parts") return `it is about ${amount} ${one ? "part" : "parts"}`;
  if (fact === "deployedTo")
    return `it was deployed to ${amount} ${one ? "environment" : "environments"}`;
  return `of ${factLabel(fact, vocabulary)} it has ${amount}`;
}

function numberSentence(
  fact: string,
  op: Operator,
  value: number,
  { label, words }: { label: string; words: string },
): string {
  const amount =
    op === "is" ? words : op === "is not" ? `not ${words}` : `${NUMBER_WORDS[op]} ${words}`;
  if (fact === "daysInState") return `it has been in its state for ${amount}`;
  if (fact === "daysSinceCreated") return `it was created ${amount} ago`;
  if (fact === "daysBlocked") return `it has been blocked for ${amount}`;
  if (fact === "daysReady") return `it has been ready for its next step for ${amount}`;
  if (fact === "returns") return `it was returned ${amount} ${value === 1 ? "time" : "times"}`;
  if (fact === "children") return `it has ${amount} ${value === 1 ? "child" : "children"}`;
  if (fact === "openChanges" || fact === "mergedChanges")
    return `it has ${amount} ${fact === "openChanges" ? "open" : "merged"} ${value === 1 ? "change" : "changes"}`;
  if (fact === "followers") return `it has ${amount} ${value === 1 ? "follower" : "followers"}`;
  if (fact === "votes")
    return `it has ${amount} ${value === 1 ? "vote or report" : "votes and reports"}`;
  const items = value === 1 ? "item" : "items";
  if (fact === "waitsFor") return `it waits for ${amount} ${items}`;
  if (fact === "waitedFor") return `${amount} ${items} ${value === 1 ? "waits" : "wait"} for it`;
  if (fact === "openChildren") return `it has ${amount} open ${value === 1 ? "child" : "children"}`;
  return `the ${label} is ${amount}`;
}
