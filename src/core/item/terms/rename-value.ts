import type { Comparison, Condition } from "@/core/condition/condition";
import { TERM_FIELDS, type Term, type TermKind } from "./term";

/** A word that is called otherwise. */
interface Renamed {
  kind: TermKind;
  from: string;
  to: string;
}

/**
 * Something that was stored with conditions in it, at any depth, in which a word is called
 * otherwise now: wherever a condition compares the field of its kind with it. Nothing else changes,
 * and what does not change is the same object.
 */
export const withTermRenamed = <T>(stored: T, renamed: Renamed): T =>
  rewritten(stored, renamed, (comparison) => ({ ...comparison, value: renamed.to }));

/**
 * The same where the word may also still be called as it was, as in conditions about other projects
 * too: where either of them is said.
 */
export const withTermOrNew = <T>(stored: T, renamed: Renamed): T =>
  rewritten(stored, renamed, (comparison) => ({
    kind: comparison.op === "lacks" ? "all" : "any",
    of: [comparison, { ...comparison, value: renamed.to }],
  }));

/**
 * A condition that may have been written before some words were renamed, as in an address that was
 * kept: a word that was called so before is asked for by its name of now as well.
 */
export const withFormerTerms = (
  condition: Condition,
  terms: readonly Pick<Term, "kind" | "name" | "earlier">[],
): Condition =>
  terms.reduce(
    (asked, { kind, name, earlier }) =>
      earlier.reduce((before, from) => withTermOrNew(before, { kind, from, to: name }), asked),
    condition,
  );

function rewritten<T>(
  stored: T,
  { kind, from }: Renamed,
  as: (comparison: Comparison) => Condition,
): T {
  const fact = TERM_FIELDS[kind];
  const through = (part: unknown): unknown => {
    if (Array.isArray(part)) {
      const parts = part.map(through);
      return parts.every((one, i) => one === part[i]) ? part : parts;
    }
    if (part === null || typeof part !== "object") return part;
    const known = part as Record<string, unknown>;
    if (known.kind === "compare" && known.fact === fact && known.value === from)
      return as(known as unknown as Comparison);
    const entries = Object.entries(known).map(([name, value]) => [name, through(value)] as const);
    return entries.every(([name, value]) => value === known[name])
      ? part
      : Object.fromEntries(entries);
  };
  return through(stored) as T;
}
