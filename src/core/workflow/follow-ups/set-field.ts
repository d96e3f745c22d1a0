import { z } from "zod";
import type { Vocabulary } from "@/core/condition/vocabulary";
import {
  FIELD_WORDS,
  itemField,
  SET_FIELDS,
  type EditableFields,
  type ITEM_FIELDS,
  type SetField,
} from "@/core/item/fields";
import { ownValueSchema, ownValueWords, type OwnValue } from "@/core/item/own-field";
import { named } from "../named";
import { ID } from "../parameter";
import { followUpKind } from "./kind";

/** A field that a follow-up can set, with the value; null clears it. */
export type FieldValue =
  | {
      [F in SetField]: {
        field: F;
        value: (typeof ITEM_FIELDS)[F]["followUp"] extends "nothing" ? null : EditableFields[F];
      };
    }[SetField]
  /** A field of the project's own. */
  | { field: "own"; fieldId: string; value: OwnValue | null };

const setTo = (field: SetField) =>
  z.object({
    field: z.literal(field),
    value: itemField(field).followUp === "nothing" ? z.null() : itemField(field).schema,
  });

const fieldValueSchema = z.union([
  z.object({ field: z.literal("own"), fieldId: ID, value: ownValueSchema.nullable() }),
  ...SET_FIELDS.map(setTo),
]) as z.ZodType<FieldValue>;

function valueWords(field: SetField, value: unknown, vocabulary: Vocabulary): string {
  const { editor } = itemField(field);
  return editor.kind === "choice" && typeof editor.options === "string"
    ? named(vocabulary[editor.options], String(value))
    : String(value);
}

export const setField = followUpKind({
  title: "set or clear a field",
  parameters: { change: fieldValueSchema },
  begins: () => ({ change: { field: "priority", value: "high" } }),
  editors: { change: { kind: "field value" } },
  words: ({ change }, vocabulary) => {
    if (change.field !== "own")
      return change.value === null
        ? `clears the ${FIELD_WORDS[change.field]}`
        : `sets the ${FIELD_WORDS[change.field]} to ${valueWords(change.field, change.value, vocabulary)}`;
    const own = vocabulary.own.find((f) => f.id === change.fieldId);
    if (!own) return "sets a field that is gone";
    const nameOf = (id: string) => named(vocabulary.people, id);
    return change.value === null
      ? `clears “${own.name}”`
      : `sets “${own.name}” to ${ownValueWords(own, change.value, nameOf)}`;
  },
  change: ({ change }, item) =>
    change.field === "own"
      ? item.setOwn(change.fieldId, change.value)
      : item.set(change.field, change.value),
});
