import { writeCsv } from "@/core/formats/csv";
import { EDITABLE_FIELDS, itemField, type EditableFields } from "@/core/item/fields";
import type { OwnValues } from "@/core/item/own-field";
import { fieldAsCell, ownAsCell } from "./cells";
import { itemColumns, type ItemColumn } from "./columns";
import type { TableGround } from "./ground";

/** An item as it is written into a table. */
export interface WrittenItem {
  key: string;
  fields: EditableFields;
  own: OwnValues;
  stateName: string;
  parentKey: string | null;
  waitsFor: readonly string[];
}

/**
 * Items as a table (RFC 4180) with all that they say, that is read back as the same items. What a
 * spreadsheet would compute is written as text.
 */
export function itemsAsTable(items: readonly WrittenItem[], ground: TableGround): string {
  const columns = itemColumns(ground.own);
  return writeCsv([
    columns.map(({ label }) => label),
    ...items.map((item) => columns.map(({ id }) => cellOf(item, id, ground))),
  ]);
}

function cellOf(item: WrittenItem, column: ItemColumn, ground: TableGround): string {
  switch (column) {
    case "key":
      return item.key;
    case "state":
      return item.stateName;
    case "parent":
      return item.parentKey ?? "";
    case "waitsFor":
      return item.waitsFor.join("; ");
  }
  const field = EDITABLE_FIELDS.find((id) => id === column);
  if (field) return fieldAsCell(item.fields[field], itemField(field).editor, ground);
  const own = ground.own.find(({ id }) => `own:${id}` === column)!;
  return ownAsCell(item.own[own.id], own, ground);
}
