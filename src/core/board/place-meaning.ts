import { EVERY_ITEM, type Comparison, type Condition } from "@/core/condition/condition";
import type { FactName } from "@/core/condition/facts";
import type { Column } from "./column";
import type { ColumnsBy, ValueField } from "./columns-by";
import type { Lane, LaneField } from "./lane";

/*
 * What stands in a place of a board, as a condition that holds for all of it.
 */

const compare = (fact: FactName, value: string | null): Comparison =>
  value === null
    ? { kind: "compare", fact, op: "is empty", value: null }
    : { kind: "compare", fact, op: "is", value };

/** What a lane means. */
export function laneMeaning(
  { id, expedite }: Pick<Lane<unknown>, "id" | "expedite">,
  by: LaneField,
): Condition {
  if (expedite) return compare("classOfService", "expedite");
  if (by === "class of service") return compare("classOfService", id);
  return by === "assignee" ? compare("assigneeId", id === "nobody" ? null : id) : EVERY_ITEM;
}

/** Under which item things stand is no fact that a condition asks for, and labels are several. */
const FACT_OF: Record<Exclude<ValueField, "parent" | "label">, FactName> = {
  assignee: "assigneeId",
  team: "teamId",
  sprint: "sprintId",
  release: "releaseId",
  priority: "priority",
};

/** What a column of a board by a field's values means; of other boards it asks for nothing. */
export function columnMeaning(by: ColumnsBy, { value = null }: Pick<Column, "value">): Condition {
  if (by === "state" || by === "free" || by === "parent") return EVERY_ITEM;
  if (by !== "label") return compare(FACT_OF[by], value);
  return value === null ? EVERY_ITEM : { kind: "compare", fact: "labels", op: "contains", value };
}
