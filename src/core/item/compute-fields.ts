import { calculate, numbersIn, type Arithmetic } from "@/core/condition/arithmetic";
import type { ItemSnapshot } from "./fields";
import type { OwnField } from "./own-field";

type Numbers = Pick<ItemSnapshot, "estimate" | "returns" | "own">;

/** The computed fields of an item by id, null where a number they need is missing. */
export function computedFields(
  fields: readonly OwnField[],
  item: Numbers,
): Record<string, number | null> {
  const formulas = new Map(
    fields.flatMap((f) => (f.kind === "computed" && f.formula ? [[f.id, f.formula] as const] : [])),
  );
  const known: Record<string, number | null> = {};
  const valueOf = (id: string, path: readonly string[]): number | null => {
    if (id in known) return known[id];
    const formula = formulas.get(id);
    if (!formula) return typeof item.own[id] === "number" ? item.own[id] : null;
    // Fields that compute each other were refused when they were stored; should it happen all the
    // same, there is no value.
    if (path.includes(id)) return null;
    return (known[id] = calculate(formula, (field) =>
      itemNumber(field, item, (other) => valueOf(other, [...path, id])),
    ));
  };
  for (const id of formulas.keys()) valueOf(id, []);
  return known;
}

function itemNumber(
  field: string,
  item: Numbers,
  own: (id: string) => number | null,
): number | null {
  if (field.startsWith("own.")) return own(field.slice(4));
  return field === "estimate" ? item.estimate : field === "returns" ? item.returns : null;
}

/**
 * The first field of a circle of fields that compute each other, beginning at one of them; null
 * where there is none.
 */
export function circularField(fields: readonly Pick<OwnField, "id" | "formula">[]): string | null {
  const formulaOf = new Map<string, Arithmetic | null>(fields.map((f) => [f.id, f.formula]));
  const visit = (id: string, path: readonly string[]): string | null => {
    if (path.includes(id)) return id;
    const formula = formulaOf.get(id);
    if (!formula) return null;
    for (const field of numbersIn(formula)) {
      const found = field.startsWith("own.") ? visit(field.slice(4), [...path, id]) : null;
      if (found) return found;
    }
    return null;
  };
  for (const { id } of fields) {
    const found = visit(id, []);
    if (found) return found;
  }
  return null;
}
