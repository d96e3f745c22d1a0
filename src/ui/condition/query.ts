import type { RuleGroupType, RuleType } from "react-querybuilder";
import {
  comparisonProblem,
  operatorsFor,
  type Comparison,
  type Condition,
  type ConditionValue,
  type Operator,
} from "@/core/condition/condition";
import type { Among } from "@/core/condition/relatives";
import { factOf, isFactName, type FactName } from "@/core/condition/facts";
import { optionsOf, type Vocabulary } from "@/core/condition/vocabulary";

/** A group of the builder; among: it is about one of those around the item. */
export type BuilderGroup = RuleGroupType & { among?: Among };

/**
 * A condition as the builder's groups and rules; "not" is a group that is turned round. Each has
 * its place as its id, so that it stays the same field on the page while it is edited.
 */
export function queryOf(condition: Condition, id = "0"): BuilderGroup {
  switch (condition.kind) {
    case "all":
    case "any":
      return {
        id,
        combinator: condition.kind === "all" ? "and" : "or",
        not: false,
        rules: condition.of.map((c, i) => ruleOf(c, `${id}-${i}`)),
      };
    case "some":
      return {
        id,
        combinator: "and",
        not: false,
        among: condition.among,
        rules: condition.of.map((c, i) => ruleOf(c, `${id}-${i}`)),
      };
    case "not": {
      const inner = queryOf(condition.of, id);
      return inner.not
        ? { id, combinator: "and", not: true, rules: [queryOf(condition.of, `${id}-0`)] }
        : { ...inner, not: true };
    }
    case "compare":
      return { id, combinator: "and", not: false, rules: [ruleOf(condition, `${id}-0`)] };
  }
}

function ruleOf(condition: Condition, id: string): RuleType | RuleGroupType {
  return condition.kind === "compare"
    ? { id, field: condition.fact, operator: condition.op, value: condition.value }
    : queryOf(condition, id);
}

/**
 * The builder's groups and rules as a condition. A rule that is not yet whole gets a value that
 * makes it so.
 */
export function conditionOf(
  query: BuilderGroup,
  vocabulary: Vocabulary,
  ofRelatives = false,
): Condition {
  // Of children and parents no further ones are asked: such a group is a plain one.
  const among = ofRelatives ? undefined : query.among;
  const of = query.rules.flatMap((r): Condition[] =>
    typeof r === "string"
      ? []
      : "rules" in r
        ? [conditionOf(r, vocabulary, ofRelatives || among !== undefined)]
        : [comparisonOf(r, vocabulary)],
  );
  const joined: Condition = { kind: query.combinator === "or" ? "any" : "all", of };
  const group: Condition = among
    ? { kind: "some", among, of: joined.kind === "all" ? of : [joined] }
    : joined;
  return query.not ? { kind: "not", of: group } : group;
}

function comparisonOf(rule: RuleType, vocabulary: Vocabulary): Comparison {
  const fact: FactName = isFactName(rule.field) ? rule.field : "typeId";
  const ops = operatorsFor(fact);
  const op = ops.includes(rule.operator as Operator) ? (rule.operator as Operator) : ops[0];
  const given: Comparison = {
    kind: "compare",
    fact,
    op,
    value: rule.value as ConditionValue | null,
  };
  return comparisonProblem(given) === null
    ? given
    : { ...given, value: firstValue(fact, op, vocabulary) };
}

/** A value that makes sense of a fact and an operator, to begin with. */
export function firstValue(
  fact: FactName,
  op: Operator,
  vocabulary: Vocabulary,
): ConditionValue | null {
  if (op === "is set" || op === "is empty") return null;
  if (op === "counts at least" || op === "counts at most") return 1;
  const { kind } = factOf(fact);
  if (kind === "flag") return true;
  if (kind === "number") return 1;
  if (kind === "date") return { day: 0 };
  if (factOf(fact).options === "sprints")
    return op === "one of" || op === "none of"
      ? [optionsOf(fact, vocabulary)[0]?.id ?? "…"]
      : { sprint: "current" };
  const first = optionsOf(fact, vocabulary)[0]?.id ?? "…";
  return op === "one of" || op === "none of" ? [first] : kind === "text" ? "…" : first;
}
