import type { CreatedData } from "./event";
import { EDITABLE_FIELDS, itemField } from "./fields";

export type NewItem = Omit<CreatedData, "projectId" | "number" | "stateId" | "stateKind" | "rank">;
type Unsaid = Omit<NewItem, "title" | "typeId">;

const initial = Object.fromEntries(
  EDITABLE_FIELDS.flatMap((f) => ("initial" in itemField(f) ? [[f, itemField(f).initial]] : [])),
);

/** What an item is unless somebody says otherwise. */
export const NEW_ITEM = { ...initial, parentId: null, own: {} } as unknown as Unsaid;
