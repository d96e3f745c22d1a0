/**
 * A computed number: arithmetic over an item's numbers, as it is written `item.value_per_week *
 * item.weeks`.
 */
export type Arithmetic =
  | { kind: "number"; value: number }
  /** A number of every item by its name, or `own.<id>` for a field of the project's own. */
  | { kind: "field"; field: string }
  | { kind: "negative"; of: Arithmetic }
  | { kind: "+" | "-" | "*" | "/"; left: Arithmetic; right: Arithmetic };

export const MOST_OPERATIONS = 20;

/** Numbers that every item has and that a formula can use, with how they are written. */
export const ITEM_NUMBERS = { estimate: "estimate", returns: "times_returned" } as const;

/**
 * The value of a formula. Where a number is missing, or something is divided by nothing, there is
 * no value.
 * @param numberOf the item's number by the name that the formula has for it; null where it has none
 * @returns null where there is no value
 */
export function calculate(
  formula: Arithmetic,
  numberOf: (field: string) => number | null,
): number | null {
  switch (formula.kind) {
    case "number":
      return formula.value;
    case "field":
      return numberOf(formula.field);
    case "negative": {
      const of = calculate(formula.of, numberOf);
      return of === null ? null : -of;
    }
    default: {
      const [a, b] = [calculate(formula.left, numberOf), calculate(formula.right, numberOf)];
      if (a === null || b === null || (formula.kind === "/" && b === 0)) return null;
      const result =
        formula.kind === "+"
          ? a + b
          : formula.kind === "-"
            ? a - b
            : formula.kind === "*"
              ? a * b
              : a / b;
      return Number.isFinite(result) ? result : null;
    }
  }
}

/** How many operations a formula has: each sign between two numbers, and each minus before one. */
export function operationsIn(formula: Arithmetic): number {
  if (formula.kind === "number" || formula.kind === "field") return 0;
  return (
    1 +
    (formula.kind === "negative"
      ? operationsIn(formula.of)
      : operationsIn(formula.left) + operationsIn(formula.right))
  );
}

/** The names of the numbers that a formula uses. */
export function numbersIn(formula: Arithmetic): Set<string> {
  if (formula.kind === "number") return new Set();
  if (formula.kind === "field") return new Set([formula.field]);
  return formula.kind === "negative"
    ? numbersIn(formula.of)
    : new Set([...numbersIn(formula.left), ...numbersIn(formula.right)]);
}
