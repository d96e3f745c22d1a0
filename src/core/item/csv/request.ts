import { z } from "zod";
import { ownValueSchema, type OwnValues } from "@/core/item/own-field";
import { editableFields } from "@/core/item/request";
import type { EditableFields } from "@/core/item/fields";

/** An item of a table as it is sent. */
export interface ImportedItem {
  /** Made by whoever sends it. */
  id: string;
  fields: Partial<EditableFields> & Pick<EditableFields, "title" | "typeId">;
  own: OwnValues;
  /** Where it stands, where that is not where items begin. */
  state: string | null;
  /** The id of one that was sent before, or the key of one that is there; null: under nothing. */
  parent: string | null;
  /** The same of what it waits for; those may come after it. */
  waitsFor: string[];
}

const ref = z.string().min(1).max(64);
/** So many items come in one part. */
export const IMPORTED_AT_ONCE = 100;
/** So many items one import brings. */
export const MOST_IMPORTED = 5_000;

export const importedItem = z.object({
  id: z.uuid(),
  fields: editableFields.partial().required({ title: true, typeId: true }),
  own: z.record(z.string().max(64), ownValueSchema),
  state: z.string().max(64).nullable(),
  parent: ref.nullable(),
  waitsFor: z.array(ref).max(50),
});

export const importItemsBody = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("import"),
    items: z.array(importedItem).min(1).max(IMPORTED_AT_ONCE),
  }),
  /** What waits for what, once all of them are there. */
  z.object({
    kind: z.literal("link"),
    links: z
      .array(z.object({ id: z.uuid(), waitsFor: ref }))
      .min(1)
      .max(IMPORTED_AT_ONCE),
  }),
  /** Where they stand, last of all: that can be undone then. */
  z.object({
    kind: z.literal("place"),
    places: z
      .array(z.object({ id: z.uuid(), to: ref, commandId: z.uuid() }))
      .min(1)
      .max(IMPORTED_AT_ONCE),
  }),
  z.object({
    kind: z.literal("take back"),
    items: z
      .array(z.object({ id: z.uuid(), placedBy: z.uuid().nullable() }))
      .min(1)
      .max(IMPORTED_AT_ONCE),
  }),
]);
export type ImportItemsRequest = z.output<typeof importItemsBody>;

/** How it went: how many were made, linked or taken back, and with which it did not, with why. */
export interface ImportedPart {
  done: number;
  left: { id: string; sentence: string }[];
}
