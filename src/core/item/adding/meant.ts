import type { Condition, Comparison } from "@/core/condition/condition";
import { otherFact } from "@/core/condition/condition";
import { dateOf, idsOf, type Asker } from "@/core/condition/evaluate";
import { factOf, ownFieldOf } from "@/core/condition/facts";
import {
  EDITABLE_FIELDS,
  ITEM_FIELDS,
  type EditableField,
  type EditableFields,
} from "@/core/item/fields";
import { isDerived, type OwnValue, type OwnValues } from "@/core/item/own-field";

/*
 * What a place among items means: a new item that is put there is to be found there.
 */

/** What an item has to say so that a condition holds for it, as far as somebody can say it. */
export interface Meant {
  fields: Partial<EditableFields>;
  own: OwnValues;
}

const NOTHING: Meant = { fields: {}, own: {} };

/** Texts are not made up: what a title has to say, its writer says. */
const WRITTEN: readonly EditableField[] = ["title", "description"];

const isField = (name: string): name is EditableField =>
  (EDITABLE_FIELDS as readonly string[]).includes(name) &&
  !(WRITTEN as readonly string[]).includes(name);

/** The value with which a comparison holds; undefined where none can be told. */
function valueFor({ fact, op, value }: Comparison, asker: Asker): unknown {
  if (op === "is empty") return null;
  if (value === null || otherFact({ value }) !== null) return undefined;
  const { kind } = factOf(fact);
  const equals = op === "is" || op === "one of";
  if (kind === "choice") return equals ? idsOf(value, asker)[0] : undefined;
  if (kind === "set") return op === "contains" ? [value] : undefined;
  if (kind === "flag") return equals ? value : undefined;
  const reaches = equals || op === "at least" || op === "at most";
  if (!reaches) return undefined;
  if (kind === "date") return dateOf(value, asker);
  return kind === "number" ? value : undefined;
}

function meantByOne(comparison: Comparison, asker: Asker): Meant {
  const value = valueFor(comparison, asker);
  if (value === undefined) return NOTHING;
  const own = ownFieldOf(comparison.fact);
  if (own)
    return isDerived(own.kind) || value === null
      ? NOTHING
      : { fields: {}, own: { [own.id]: value as OwnValue } };
  if (!isField(comparison.fact)) return NOTHING;
  const read = ITEM_FIELDS[comparison.fact].schema.safeParse(value);
  return read.success ? { fields: { [comparison.fact]: read.data }, own: {} } : NOTHING;
}

/** What was said first stays; labels and other lists are joined. */
function joined(a: Meant, b: Meant): Meant {
  const both = <T extends object>(first: T, then: T): T => {
    const known = first as Record<string, unknown>;
    const lists = Object.entries(then).flatMap(([name, more]) => {
      const before = known[name];
      return Array.isArray(before) && Array.isArray(more)
        ? [[name, [...new Set([...before, ...more])]]]
        : [];
    });
    return { ...then, ...first, ...Object.fromEntries(lists) };
  };
  return { fields: both(a.fields, b.fields), own: both(a.own, b.own) };
}

const saysNothing = ({ fields, own }: Meant): boolean =>
  Object.keys(fields).length + Object.keys(own).length === 0;

/**
 * What an item has to say so that a condition holds for it: of several values of one field the
 * first, of alternatives the first that can be said. Whether it holds then is another question: what
 * lies in the past, and what is ruled out, cannot be said.
 */
export function meantBy(condition: Condition, asker: Asker): Meant {
  switch (condition.kind) {
    case "all":
      return condition.of.map((one) => meantBy(one, asker)).reduce(joined, NOTHING);
    case "any":
      return (
        condition.of.map((one) => meantBy(one, asker)).find((one) => !saysNothing(one)) ?? NOTHING
      );
    case "not":
    case "some":
      return NOTHING;
    case "compare":
      return meantByOne(condition, asker);
  }
}
