import {
  otherFact,
  type Comparison,
  type Condition,
  type ConditionValue,
} from "@/core/condition/condition";
import { simplify } from "@/core/condition/simplify";
import { factOf } from "@/core/condition/facts";

/**
 * Whether a condition can be seen never to hold: what it demands of one fact at the same time
 * excludes itself. It looks at comparisons that are joined by "and"; true is certain, false says
 * only that no contradiction was found.
 */
export function neverHolds(condition: Condition): boolean {
  const simple = simplify(condition);
  if (simple.kind === "any") return simple.of.every(neverHolds);
  if (simple.kind === "not") return simple.of.kind === "all" && simple.of.of.length === 0;
  const parts = simple.kind === "all" ? simple.of : [simple];
  if (parts.some((p) => p.kind === "any" && neverHolds(p))) return true;
  const byFact = new Map<string, Comparison[]>();
  // What another fact is is only known of an item: such comparisons exclude nothing.
  for (const p of parts)
    if (p.kind === "compare" && otherFact(p) === null)
      byFact.set(p.fact, [...(byFact.get(p.fact) ?? []), p]);
  return [...byFact.values()].some(exclude);
}

function exclude(comparisons: readonly Comparison[]): boolean {
  const [{ fact }] = comparisons;
  const { kind } = factOf(fact);
  const empty = comparisons.some((c) => c.op === "is empty");
  const needsValue = comparisons.some(
    (c) => c.op !== "is empty" && c.op !== "is not" && c.op !== "none of" && c.op !== "lacks",
  );
  if (empty && needsValue) return true;
  if (kind === "choice") return noChoiceLeft(comparisons);
  if (kind === "number" || kind === "date") return noRangeLeft(comparisons);
  const opposite = (a: Comparison, b: Comparison) =>
    a.op === "contains" && b.op === "lacks" && a.value === b.value;
  return comparisons.some((a) =>
    comparisons.some(
      (b) =>
        opposite(a, b) ||
        (kind === "flag" && a.value !== b.value) ||
        (kind === "text" && a.op === "is" && b.op === "is" && a.value !== b.value),
    ),
  );
}

const names = (value: ConditionValue | null): string[] | null =>
  typeof value === "string" ? [value] : Array.isArray(value) ? value : null;

/** Values that are only known when somebody asks (me, my teams) exclude nothing. */
function noChoiceLeft(comparisons: readonly Comparison[]): boolean {
  let left: string[] | null = null;
  for (const { op, value } of comparisons) {
    const ids = names(value);
    if ((op === "is" || op === "one of") && ids)
      left = left === null ? ids : left.filter((v) => ids.includes(v));
  }
  if (left === null) return false;
  const excluded = comparisons.flatMap(({ op, value }) =>
    op === "is not" || op === "none of" ? (names(value) ?? []) : [],
  );
  return left.every((v) => excluded.includes(v));
}

function noRangeLeft(comparisons: readonly Comparison[]): boolean {
  // Days from today and dates are not compared with each other: what today is is only known when
  // somebody asks.
  const sort = (value: ConditionValue | null) =>
    typeof value === "number" ? "number" : typeof value === "string" ? "date" : "day";
  for (const kind of ["number", "date", "day"]) {
    let low: { at: number; open: boolean } = { at: -Infinity, open: false };
    let high: { at: number; open: boolean } = { at: Infinity, open: false };
    for (const { op, value } of comparisons) {
      if (value === null || sort(value) !== kind) continue;
      const at =
        typeof value === "number"
          ? value
          : typeof value === "string"
            ? Date.parse(value)
            : (value as { day: number }).day;
      if ((op === "at least" || op === "is") && at > low.at) low = { at, open: false };
      if (op === "more than" && at >= low.at) low = { at, open: true };
      if ((op === "at most" || op === "is") && at < high.at) high = { at, open: false };
      if (op === "less than" && at <= high.at) high = { at, open: true };
    }
    if (low.at > high.at || (low.at === high.at && (low.open || high.open))) return true;
  }
  return false;
}
