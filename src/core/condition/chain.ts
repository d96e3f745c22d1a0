import type { Condition, Operator } from "./condition";
import { simplify } from "./simplify";

/** A condition that wants something of some items only. */
export interface Chain {
  /** Of which items. */
  given: Condition;
  wanted: Condition;
}

const DENIALS: readonly Operator[] = ["is not", "none of", "lacks", "is empty"];

/** Whether a condition says what is not so. */
export const denies = (c: Condition): boolean =>
  c.kind === "not" || (c.kind === "compare" && DENIALS.includes(c.op));

/**
 * “It is no bug or it has a severity” as people say it: “if it is a bug, it has a severity”.
 * @returns null where a condition does not read so
 */
export function asChain(condition: Condition): Chain | null {
  const simple = simplify(condition);
  if (simple.kind !== "any") return null;
  const denied = simple.of.filter(denies);
  const rest = simple.of.filter((c) => !denies(c));
  if (denied.length === 0 || rest.length !== 1) return null;
  const given = simplify({
    kind: "all",
    of: denied.map((c): Condition => ({ kind: "not", of: c })),
  });
  return { given, wanted: rest[0] };
}
