import type { Condition } from "@/core/condition/condition";
import { chosenIn, filterOf, filterParts } from "./filter";
import type { Look } from "./look";
import { withoutNarrowing } from "./narrow";
import type { KnownBoard } from "./proposals";

const FACT = "level";

/** The one level that a filter lets through, as levels are numbered; null where it is not one. */
export function levelIn(filter: Condition): string | null {
  const chosen = filterParts(filter).flatMap((part) => chosenIn(part) ?? []);
  const values = chosen.filter(({ fact }) => fact === FACT).flatMap((one) => one.values);
  return values.length === 1 && typeof values[0] === "string" ? values[0] : null;
}

/**
 * The same look at another level: only what is of it, on a board that shows it. Several types may
 * share a level; null: all of them again, where one is.
 * @returns what of the look becomes another
 */
export function atLevel(
  { arrangement, board, filter }: Look,
  level: string | null,
  boards: readonly KnownBoard[],
): Pick<Look, "filter" | "board"> {
  const rest = withoutNarrowing(filter, FACT);
  if (level === null) return { filter: rest, board };
  const narrowed = filterOf([
    ...filterParts(rest),
    { kind: "compare", fact: FACT, op: "is", value: level },
  ]);
  const now = boards.find(({ id }) => id === board) ?? boards[0];
  const showsIt = (one: KnownBoard | undefined) => one?.levels.includes(level) ?? false;
  if (arrangement !== "board" || showsIt(now)) return { filter: narrowed, board };
  const other = boards.find((one) => one.columnsBy === "state" && showsIt(one));
  return { filter: narrowed, board: other?.id ?? board };
}
