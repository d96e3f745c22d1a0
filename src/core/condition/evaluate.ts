import { foldCase } from "@/core/formats/fold-case";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import {
  otherFact,
  type Comparison,
  type Condition,
  type ConditionValue,
  type Operator,
} from "./condition";
import type { SprintsMeant } from "./sprint-word";
import { factOf, type AskedAt, type AskedItem, type FactValue } from "./facts";

/** Who asks and when, in the zone of the project. */
export interface Asker extends AskedAt {
  personId: string | null;
  teamIds: readonly string[];
  /** Which sprints are meant by words; left out where nothing can be about them. */
  sprints?: Partial<SprintsMeant>;
}

/** The date that a value stands for, ISO 8601. */
export function dateOf(value: ConditionValue, asker: Pick<Asker, "now" | "zone">): string {
  if (typeof value === "string") return value;
  if (typeof value === "object" && "day" in value)
    return isoDate(dayNumber(asker.now, asker.zone) + value.day);
  throw new Error("no date");
}

/** The ids that a value stands for. `me` of nobody is no id, so nothing is ever equal to it. */
export function idsOf(
  value: ConditionValue,
  asker: Pick<Asker, "personId" | "teamIds" | "sprints">,
): string[] {
  if (typeof value === "string") return [value];
  if (Array.isArray(value)) return value;
  if (typeof value === "object" && "who" in value)
    return value.who === "me" ? (asker.personId ? [asker.personId] : []) : [...asker.teamIds];
  if (typeof value === "object" && "sprint" in value)
    return [asker.sprints?.[value.sprint] ?? []].flat();
  throw new Error("no id");
}

/** A comparison with another fact of the item, as a comparison with what that fact is. */
function withOther(comparison: Comparison, asked: AskedItem, asker: Asker): Comparison {
  const other = otherFact(comparison);
  return other === null
    ? comparison
    : { ...comparison, value: factOf(other).of(asked, asker) as string | number | null };
}

/**
 * Whether a condition holds for an item. A fact without a value is less, more or equal to nothing:
 * only "is not", "none of", "lacks" and "is empty" hold for it. Two facts without a value are the
 * same, as null == null is in CEL.
 */
export function holds(condition: Condition, asked: AskedItem, asker: Asker): boolean {
  switch (condition.kind) {
    case "all":
      return condition.of.every((c) => holds(c, asked, asker));
    case "any":
      return condition.of.some((c) => holds(c, asked, asker));
    case "not":
      return !holds(condition.of, asked, asker);
    case "some": {
      const around = asked.relatives?.[condition.among] ?? [];
      return around.some((one) => condition.of.every((c) => holds(c, one, asker)));
    }
    case "compare":
      return compare(
        withOther(condition, asked, asker),
        factOf(condition.fact).of(asked, asker),
        asker,
      );
  }
}

function compare({ fact, op, value }: Comparison, actual: FactValue, asker: Asker): boolean {
  if (op === "is set") return actual !== null;
  if (op === "is empty") return actual === null;
  if (op === "is not") return !compare({ kind: "compare", fact, op: "is", value }, actual, asker);
  if (op === "none of")
    return !compare({ kind: "compare", fact, op: "one of", value }, actual, asker);
  if (op === "lacks")
    return !compare({ kind: "compare", fact, op: "contains", value }, actual, asker);
  if (actual === null || value === null) return op === "is" && actual === value;
  if (op === "counts at least") return sizeOf(actual) >= (value as number);
  if (op === "counts at most") return sizeOf(actual) <= (value as number);
  const { kind } = factOf(fact);
  if (kind === "choice") return idsOf(value, asker).includes(actual as string);
  if (kind === "set") return (actual as readonly string[]).includes(value as string);
  if (kind === "text") return compareText(op, actual as string, value as string);
  if (kind === "flag") return actual === value;
  const [a, b] =
    kind === "date"
      ? [actual as string, dateOf(value, asker)]
      : [actual as number, value as number];
  switch (op) {
    case "is":
      return a === b;
    case "at least":
      return a >= b;
    case "at most":
      return a <= b;
    case "more than":
      return a > b;
    case "less than":
      return a < b;
    default:
      return false;
  }
}

/** How many values a set has, or letters (code points) a text, as `size` counts in CEL. */
function sizeOf(actual: FactValue): number {
  return typeof actual === "string"
    ? [...actual].length
    : new Set(actual as readonly string[]).size;
}

function compareText(op: Operator, actual: string, value: string): boolean {
  switch (op) {
    case "contains":
      return foldCase(actual).includes(foldCase(value));
    case "contains exactly":
      return actual.includes(value);
    case "starts with":
      return actual.startsWith(value);
    case "ends with":
      return actual.endsWith(value);
    default:
      return actual === value;
  }
}
