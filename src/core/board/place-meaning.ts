import { EVERY_ITEM, type Comparison, type Condition } from "@/core/condition/condition";
import type { FactName } from "@/core/condition/facts";
import { TERM_FIELDS, type TermKind } from "@/core/item/terms/term";
import type { Column } from "./column";
import { areValues, type ColumnsBy, type ValueField } from "./columns-by";

/*
 * What stands in a column of a board, as a condition that holds for all of it.
 */

const compare = (fact: FactName, value: string | null): Comparison =>
  value === null
    ? { kind: "compare", fact, op: "is empty", value: null }
    : { kind: "compare", fact, op: "is", value };

/** Under which item things stand is no fact that a condition asks for; labels and parts are several. */
const FACT_OF: Record<Exclude<ValueField, "parent" | TermKind>, FactName> = {
  assignee: "assigneeId",
  team: "teamId",
  sprint: "sprintId",
  release: "releaseId",
  priority: "priority",
};

/** What a column of a board by a field's values means; of other boards it asks for nothing. */
export function columnMeaning(by: ColumnsBy, { value = null }: Pick<Column, "value">): Condition {
  if (!areValues(by) || by === "parent") return EVERY_ITEM;
  if (by !== "label" && by !== "part") return compare(FACT_OF[by], value);
  const fact = TERM_FIELDS[by];
  return value === null ? EVERY_ITEM : { kind: "compare", fact, op: "contains", value };
}
