import { z } from "zod";
import { conditionSchema } from "@/core/condition/condition";
import { answered, contract } from "@/core/contract/contract";
import type { EditableFields } from "@/core/item/fields";
import type { OwnValues } from "@/core/item/own-field";
import type { StateId } from "@/core/workflow/state";

const id = z.string().min(1).max(64);

/** Where an item is to be added. */
export const addingBody = z.object({
  /** The board on which, by its id; null: on none. */
  board: id.nullable(),
  /** What the place itself means, as a lane, a column of a value, or a group. */
  place: conditionSchema,
  /** What a view is about, and what it is narrowed to. */
  scope: conditionSchema,
  filter: conditionSchema,
  /** The states of its column; none: where items begin. */
  states: z.array(id).max(100),
  /** The type of what it is to stand under; null: it stands under nothing that is named. */
  underTypeId: id.nullable().default(null),
  /** The type that somebody chose; null: the one that fits. */
  typeId: id.nullable(),
});
export type AddingAsked = z.output<typeof addingBody>;

/** What an item becomes that is added there. */
export interface Adding {
  typeId: string;
  /** The types that can stand there. */
  types: { id: string; name: string }[];
  fields: Partial<EditableFields>;
  own: OwnValues;
  /** The move that takes it to its column; null: it stays where items begin. */
  into: { to: StateId; verb: string } | null;
  /** Why it will not show there, and where it will; null: it will show. */
  elsewhere: string | null;
}

export const addingContract = {
  /** What adding an item at a place means, before anything is added. */
  plan: contract({
    method: "POST",
    path: "/api/projects/:key/adding",
    body: addingBody,
    answer: answered<Adding>(),
    kept: "adding",
  }),
};
