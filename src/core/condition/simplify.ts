import type { Condition, Operator } from "./condition";
import { factOf } from "./facts";

/**
 * Operators that say the opposite of each other for every item, also for one whose fact has no
 * value.
 */
const OPPOSITE: Partial<Record<Operator, Operator>> = {
  is: "is not",
  "is not": "is",
  "one of": "none of",
  "none of": "one of",
  contains: "lacks",
  lacks: "contains",
  "is set": "is empty",
  "is empty": "is set",
};

/** The same condition without brackets and negations that it does not need. */
export function simplify(condition: Condition): Condition {
  switch (condition.kind) {
    case "compare":
      return condition;
    case "not":
      return negated(simplify(condition.of));
    case "some": {
      const of = condition.of.map(simplify).flatMap((c) => (c.kind === "all" ? c.of : [c]));
      return { ...condition, of };
    }
    case "all":
    case "any": {
      const { kind } = condition;
      const of = condition.of.map(simplify).flatMap((c) => (c.kind === kind ? c.of : [c]));
      return of.length === 1 ? of[0] : { kind, of };
    }
  }
}

function negated(inner: Condition): Condition {
  if (inner.kind === "not") return inner.of;
  if (inner.kind !== "compare") return { kind: "not", of: inner };
  if (factOf(inner.fact).kind === "flag") return { ...inner, value: inner.value !== true };
  const op = OPPOSITE[inner.op];
  return op ? { ...inner, op } : { kind: "not", of: inner };
}
