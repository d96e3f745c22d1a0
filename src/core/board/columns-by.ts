import { PRIORITIES, type EditableFields } from "@/core/item/fields";
import { projectKeyOf } from "@/core/item/key";
import { TERM_FIELDS, type TermField } from "@/core/item/terms/term";
import type { Card } from "./card";
import type { Column } from "./column";

/**
 * What the columns of a board are: the states of workflows, the values of another field (a drop
 * changes that field), or lists that mean nothing and change nothing.
 */
export const COLUMNS_BY = [
  "state",
  "assignee",
  "team",
  "sprint",
  "release",
  "priority",
  "parent",
  "label",
  "part",
  "free",
] as const;
/** What the columns of a board of one project are. */
export type DesignedColumns = (typeof COLUMNS_BY)[number];
/** Above the projects they can also be what no drop changes: the project, and the level. */
export type ColumnsBy = DesignedColumns | "project" | "level";
export type ValueField = Exclude<DesignedColumns, "state" | "free">;

/** Whether columns are the values of a field that a drop changes. */
export const areValues = (by: ColumnsBy): by is ValueField =>
  !["state", "free", "project", "level"].includes(by);

/** Why nothing is put into columns that say what an item is; null where a drop changes it. */
export const whyNoDrop = (by: ColumnsBy): string | null =>
  by === "project"
    ? "An item stays in its project: these columns only show it."
    : by === "level"
      ? "An item keeps its level: that is its type's. Change its type to change it."
      : null;

export const COLUMNS_BY_WORDS: Record<ColumnsBy, string> = {
  state: "the steps of the process",
  assignee: "who has it",
  team: "teams",
  sprint: "sprints",
  release: "releases",
  priority: "priorities",
  parent: "the items above",
  label: "labels",
  part: "parts of the product",
  free: "lists of our own",
  project: "projects",
  level: "levels",
};

interface Named {
  id: string;
  name: string;
}

/** What a project has of the values that columns can be. */
export interface ColumnValues {
  people: readonly Named[];
  teams: readonly Named[];
  sprints: readonly Named[];
  releases: readonly Named[];
  /** Items above others, by their key and title. */
  parents: readonly Named[];
}

const WITHOUT: Record<ValueField, string> = {
  assignee: "Nobody yet",
  team: "No team",
  sprint: "No sprint",
  release: "No release",
  priority: "No priority",
  parent: "Under nothing",
  label: "No label",
  part: "No part",
};

/**
 * The value that an item has on a board whose columns are the values of a field; of several labels
 * or parts the first counts.
 */
export function valueOf(
  by: ValueField,
  card: Pick<
    Card,
    "assigneeId" | "teamId" | "sprintId" | "releaseId" | "priority" | "parentId" | TermField
  >,
): string | null {
  switch (by) {
    case "assignee":
      return card.assigneeId;
    case "team":
      return card.teamId;
    case "sprint":
      return card.sprintId;
    case "release":
      return card.releaseId;
    case "priority":
      return card.priority;
    case "parent":
      return card.parentId;
    case "label":
    case "part":
      return card[TERM_FIELDS[by]][0] ?? null;
  }
}

/**
 * How a drop into a column changes an item; null where it is another kind of change, as under
 * another item.
 */
export function changeFor(
  by: ValueField,
  value: string | null,
  card: Pick<Card, TermField>,
): Partial<EditableFields> | null {
  switch (by) {
    case "assignee":
      return { assigneeId: value };
    case "team":
      return { teamId: value };
    case "sprint":
      return { sprintId: value };
    case "release":
      return { releaseId: value };
    case "priority":
      return { priority: value as EditableFields["priority"] };
    case "label":
    case "part": {
      const field = TERM_FIELDS[by];
      // Without a label is without any: with one left, the item would stay in another column.
      if (value === null) return { [field]: [] };
      const others = card[field].slice(1).filter((name) => name !== value);
      return { [field]: [value, ...others] };
    }
    case "parent":
      return null;
  }
}

const namesIn = (used: ReadonlySet<string | null>): Named[] =>
  [...used]
    .filter((name) => name !== null)
    .sort()
    .map((name) => ({ id: name, name }));

/** A column of a value; null is the column of items without one. */
function valueColumn(by: ValueField, value: string | null, name: string, position: number): Column {
  return {
    id: `${by} ${value ?? ""}`,
    stage: name,
    name: "",
    part: value === null ? "waiting" : "working",
    position,
    stateIds: [],
    value,
  };
}

/**
 * The columns of a board by a field's values: those that exist, in their order, and what has none
 * in front. People who have something stand before those who have nothing; items above others only
 * where they have one here.
 */
export function valueColumns(
  by: ValueField,
  values: ColumnValues,
  cards: readonly Card[],
): Column[] {
  const used = new Set(cards.map((c) => valueOf(by, c)));
  const known: Named[] = {
    assignee: () =>
      [...values.people].sort((a, b) => Number(used.has(b.id)) - Number(used.has(a.id))),
    team: () => [...values.teams],
    sprint: () => [...values.sprints],
    release: () => [...values.releases],
    priority: () => [...PRIORITIES].reverse().map((p) => ({ id: p, name: p })),
    parent: () => values.parents.filter((p) => used.has(p.id)),
    label: () => namesIn(used),
    part: () => namesIn(used),
  }[by]();
  // Somebody who left, a sprint that was taken out: what still has it stays in sight.
  const former = [...used]
    .filter((v): v is string => v !== null && !known.some((k) => k.id === v))
    .map((v) => ({ id: v, name: `A former ${by === "assignee" ? "member" : by}` }));
  const columns = [...known, ...former].map(({ id, name }, i) => valueColumn(by, id, name, i + 1));
  return by === "priority" ? columns : [valueColumn(by, null, WITHOUT[by], 0), ...columns];
}

/** Where items stand on a free board: the list, and the rank in it. */
export type Places = Readonly<Record<string, { columnId: string; rank: string }>>;

/** Whether an item stands in a column of a board. */
export function standsIn(
  board: { columnsBy: ColumnsBy; places: Places },
  column: Column,
  card: Card,
): boolean {
  if (board.columnsBy === "state") return column.stateIds.includes(card.stateId);
  if (board.columnsBy === "free") return board.places[card.id]?.columnId === column.id;
  if (board.columnsBy === "level") return column.typeIds?.includes(card.typeId) ?? false;
  if (board.columnsBy === "project") return projectKeyOf(card.key) === column.value;
  return (column.value ?? null) === valueOf(board.columnsBy, card);
}
