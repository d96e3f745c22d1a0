import { EDITABLE_FIELDS, itemField, type EditableField } from "@/core/item/fields";
import { isDerived, type OwnField } from "@/core/item/own-field";

/*
 * The columns of a table of items: each of its fields, those of the project's own, and what says
 * where it stands and what it hangs on.
 */

/** What a row says beside the fields of an item. */
export const OTHER_COLUMNS = {
  key: "Key",
  state: "State",
  parent: "Under",
  waitsFor: "Waits for",
} as const;
export type OtherColumn = keyof typeof OTHER_COLUMNS;

/** A column: a field, something beside it, or a field of the project's own by its id. */
export type ItemColumn = EditableField | OtherColumn | `own:${string}`;

/** A column with how it is called. */
export interface NamedColumn {
  id: ItemColumn;
  label: string;
}

/** All columns that a table of a project's items can have, in the order in which they are written. */
export function itemColumns(own: readonly OwnField[]): NamedColumn[] {
  const field = (id: EditableField): NamedColumn => ({ id, label: itemField(id).label });
  const other = (id: OtherColumn): NamedColumn => ({ id, label: OTHER_COLUMNS[id] });
  return [
    other("key"),
    field("title"),
    field("typeId"),
    other("state"),
    other("parent"),
    ...EDITABLE_FIELDS.filter((id) => id !== "title" && id !== "typeId").map(field),
    other("waitsFor"),
    ...own
      .filter((one) => one.removedAt === null && !isDerived(one.kind))
      .map((one): NamedColumn => ({ id: `own:${one.id}`, label: one.name })),
  ];
}

/** By which other words a column is likely to mean something. */
const LIKELY: Partial<Record<ItemColumn, RegExp>> = {
  key: /^(id|key|number|no\.?|reference)$/i,
  title: /^(title|summary|name|subject|headline|item)$/i,
  description: /^(description|details?|text|body|notes?)$/i,
  typeId: /^(type|kind|item type)$/i,
  state: /^(state|status|column)$/i,
  parent: /^(parent|under|belongs to|epic|feature)( key| id)?$/i,
  waitsFor: /^(waits for|depends on|dependencies|blocked by|after)$/i,
  assigneeId: /^(assignee|assigned to|owner|person|who)$/i,
  estimate: /^(estimate|size|points?|story points?)$/i,
  remainingHours: /^(hours left|remaining( work| hours)?|left)$/i,
  firstEstimate: /^(first estimate|original estimate)$/i,
  dueOn: /^(due|due date|due on|deadline|until)$/i,
  plannedFrom: /^(planned from|start|start date|begins?)$/i,
  plannedTo: /^(planned to|end|end date|ends?)$/i,
  labels: /^(labels?|tags?)$/i,
  parts: /^(parts?|components?|areas?)$/i,
  classOfService: /^(class|class of service)$/i,
};

/** Which column of a table, counted from 0, says what; what is not in it nothing says. */
export type ItemMatch = Partial<Record<ItemColumn, number>>;

/**
 * The columns of a table that most likely say what an item says: first by their very names, then by
 * words for them. No column is taken twice.
 */
export function matchItemColumns(
  header: readonly string[],
  columns: readonly NamedColumn[],
): ItemMatch {
  const names = header.map((name) => name.trim().toLowerCase());
  const match: ItemMatch = {};
  const taken = new Set<number>();
  const take = (id: ItemColumn, fits: (name: string) => boolean) => {
    if (match[id] !== undefined) return;
    const at = names.findIndex((name, i) => !taken.has(i) && name !== "" && fits(name));
    if (at < 0) return;
    match[id] = at;
    taken.add(at);
  };
  for (const { id, label } of columns) take(id, (name) => name === label.toLowerCase());
  for (const { id } of columns) {
    const likely = LIKELY[id];
    if (likely) take(id, (name) => likely.test(name));
  }
  return match;
}
