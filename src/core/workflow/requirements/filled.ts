import { z } from "zod";
import type { Vocabulary } from "@/core/condition/vocabulary";
import {
  DEMANDED_FIELDS,
  FIELD_WORDS,
  ITEM_FIELDS,
  itemField,
  type DemandedItemField,
} from "@/core/item/fields";
import { fieldsOfType, isDerived } from "@/core/item/own-field";
import { refuse, type Refusal } from "../refusal";
import { demandedOwnField, type DemandedOwnField } from "../requirement";
import { requirementKind, type RequirementContext } from "./kind";

/** A field of the project's own, by its id. */
const ownFieldName = z
  .templateLiteral(["own.", z.string().min(1)])
  .refine((name) => name.length <= 70) as z.ZodType<DemandedOwnField>;

const article = (noun: string) => `${/^[aeiou]/.test(noun) ? "an" : "a"} ${noun}`;
const ownName = (vocabulary: Vocabulary, id: string) =>
  vocabulary.own.find((f) => f.id === id)?.name ?? "a field that is gone";
const demandedWords = (field: DemandedItemField) =>
  itemField(field).demand?.what ?? article(FIELD_WORDS[field]);

/**
 * What can be demanded to be filled: fields of every item, and the project's own that somebody
 * fills.
 */
function demandable({ own }: Vocabulary) {
  const mine = own
    .filter((f) => f.removedAt === null && !isDerived(f.kind))
    .map((f) => ({ value: `own.${f.id}`, label: f.name }));
  return [...DEMANDED_FIELDS.map((f) => ({ value: f as string, label: FIELD_WORDS[f] })), ...mine];
}

/** A field that the item's type does not have is not asked for: nobody could fill it. */
function unfilledOwn(id: string, { after, ownFields }: RequirementContext): Refusal | null {
  const field = fieldsOfType(ownFields, after.typeId).find((f) => f.id === id);
  if (!field || after.own[id] !== undefined) return null;
  return refuse(
    "field missing",
    `It needs “${field.name}”.`,
    field.unit ? `Say how many ${field.unit}.` : "Fill it in.",
    [{ field: `own.${id}`, label: field.name, own: field }],
  );
}

export const filled = requirementKind({
  title: "a field is filled",
  refused: "a field was empty",
  parameters: { field: z.union([z.enum(DEMANDED_FIELDS), ownFieldName]) },
  begins: { field: "estimate" },
  editors: { field: { kind: "choice", label: "Field", options: demandable } },
  words: ({ field }, vocabulary) => {
    const ownId = demandedOwnField(field);
    return ownId !== null
      ? `needs “${ownName(vocabulary, ownId)}”`
      : `needs ${demandedWords(field as DemandedItemField)}`;
  },
  unmet: ({ field: named }, context) => {
    const ownId = demandedOwnField(named);
    if (ownId !== null) return unfilledOwn(ownId, context);
    const field = named as DemandedItemField;
    const value = context.after[field];
    if (value !== null && value !== "") return null;
    const { sentence, help, label } = ITEM_FIELDS[field].demand;
    const not = field === "reviewerId" ? { not: context.before.assigneeId } : {};
    return refuse("field missing", sentence, help, [{ field, label, ...not }]);
  },
});
