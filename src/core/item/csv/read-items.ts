import { EDITABLE_FIELDS, itemField, ITEM_FIELDS, type EditableFields } from "@/core/item/fields";
import {
  fieldsOfType,
  type OwnValues,
  ownValueProblem,
  type OwnValue,
} from "@/core/item/own-field";
import type { RowProblem, Table } from "@/core/formats/report-table";
import { refuseWithoutDate } from "@/core/item/fixed-date";
import { capital } from "@/core/formats/capital";
import { foldCase } from "@/core/formats/fold-case";
import { cellOfField, cellOfOwn, keysOfCell, type CellValue } from "./cells";
import type { ItemMatch, OtherColumn } from "./columns";
import type { TableGround } from "./ground";
import type { ImportedItem } from "./request";

/** A row of a table as an item that would be made. */
export interface RowItem {
  /** The line of the file, the first being 1. */
  row: number;
  item: ImportedItem;
}

/** What would come of a table. */
export interface ReadItems {
  /** Parents before what is under them, else in the order of the table. */
  items: RowItem[];
  problems: RowProblem[];
  /** What is taken otherwise than it stands there, in sentences. */
  notes: string[];
}

/**
 * The items of a table. A row of which a cell cannot be taken is left out with the reason, and so is
 * what is under it. What a row stands under, or waits for, is named by the key that a row of the same
 * table has, else by the key of an item that is there already.
 * @param newId makes ids; each item has one before it is sent, so that a retry makes nothing twice
 */
export function itemsOfTable(
  { rows, lines }: Table,
  match: ItemMatch,
  { ground, newId }: { ground: TableGround; newId: () => string },
): ReadItems {
  const read = rows.map((cells, i) => {
    const cell = (column: OtherColumn | keyof EditableFields) => cellAt(cells, match[column]);
    return {
      row: lines[i],
      cells,
      key: cell("key").toUpperCase(),
      ...rowOf(cells, match, { ground, newId }),
    };
  });
  const notes = new Set<string>();
  const problems: RowProblem[] = [];
  const leave = (one: (typeof read)[number], sentence: string) =>
    problems.push({ row: one.row, sentence, cells: one.cells });
  const good = read.filter((one) => {
    if (one.problem !== null) leave(one, one.problem);
    for (const name of one.unused)
      notes.add(`${name} is no field of every type here: where it is none, it is left out.`);
    return one.problem === null;
  });
  const byKey = new Map<string, (typeof read)[number]>();
  for (const one of good)
    if (one.key !== "" && !byKey.has(one.key)) byKey.set(one.key, one);
    else if (one.key !== "") notes.add(`Several rows have the key ${one.key}: the first is meant.`);
  const bad = new Set(
    read.filter((one) => !good.includes(one) && one.key !== "").map((o) => o.key),
  );
  const items: RowItem[] = [];
  const placed = new Set<string>();
  const put = (one: (typeof read)[number], above: readonly string[]): boolean => {
    const { item, key, row } = one;
    if (placed.has(item.id)) return true;
    if (key !== "" && above.includes(key)) return false;
    const parentKey = cellAt(one.cells, match.parent).toUpperCase();
    const parent = byKey.get(parentKey);
    if (parentKey !== "" && !parent && bad.has(parentKey)) {
      leave(one, `What it stands under, ${parentKey}, is left out.`);
      return false;
    }
    if (parent && !put(parent, [...above, key])) {
      leave(one, `What it stands under, ${parentKey}, is left out, or stands under it.`);
      return false;
    }
    placed.add(item.id);
    const refOf = (wanted: string) => byKey.get(wanted)?.item.id ?? wanted;
    items.push({
      row,
      item: {
        ...item,
        parent: parentKey === "" ? null : refOf(parentKey),
        waitsFor: keysOfCell(cellAt(one.cells, match.waitsFor)).map(refOf),
      },
    });
    return true;
  };
  const tried = new Set<(typeof read)[number]>();
  for (const one of good) {
    if (tried.has(one)) continue;
    tried.add(one);
    put(one, []);
  }
  const known = new Map(problems.map((one) => [one.row, one]));
  return {
    items,
    problems: [...known.values()].toSorted((a, b) => a.row - b.row),
    notes: [...notes],
  };
}

const cellAt = (cells: readonly string[], at: number | undefined): string =>
  at === undefined ? "" : (cells[at] ?? "").trim();

/** What a row says of an item, or the first thing that is wrong with it. */
function rowOf(
  cells: readonly string[],
  match: ItemMatch,
  { ground, newId }: { ground: TableGround; newId: () => string },
): { item: ImportedItem; problem: string | null; unused: string[] } {
  const fields: Record<string, unknown> = {};
  const own: Record<string, OwnValue> = {};
  let wrong: string | null = null;
  const take = (label: string, read: CellValue, put: (value: unknown) => void) => {
    if ("problem" in read) wrong ??= `${label}: ${read.problem}`;
    else put(read.value);
  };
  for (const id of EDITABLE_FIELDS) {
    const cell = cellAt(cells, match[id]);
    const { label, editor, schema } = itemField(id);
    if (cell === "") continue;
    take(label, cellOfField(cell, editor, { ground, newId }), (value) => {
      const parsed = schema.safeParse(value);
      if (parsed.success) fields[id] = parsed.data;
      else wrong ??= `${label}: ${parsed.error.issues[0].message}`;
    });
  }
  fields.typeId ??= ground.types[0]?.id;
  if (fields.title === undefined) wrong ??= "It has no title.";
  const typeId = String(fields.typeId);
  for (const field of fieldsOfType(ground.own, typeId)) {
    const cell = cellAt(cells, match[`own:${field.id}`]);
    if (cell === "") continue;
    take(field.name, cellOfOwn(cell, field, ground), (value) => {
      const problem = ownValueProblem(field, value as OwnValue);
      if (problem) wrong ??= problem;
      else own[field.id] = value as OwnValue;
    });
  }
  const taken = new Set(fieldsOfType(ground.own, typeId).map(({ id }) => id));
  const unused = ground.own.filter(
    ({ id }) => !taken.has(id) && cellAt(cells, match[`own:${id}`]) !== "",
  );
  const state = stateOf(cellAt(cells, match.state), typeId, ground);
  if (typeof state === "object" && state !== null) wrong ??= state.problem;
  const dueOn = (fields.dueOn ?? null) as string | null;
  const classOfService = (fields.classOfService ??
    ITEM_FIELDS.classOfService.initial) as EditableFields["classOfService"];
  if (refuseWithoutDate(null, { classOfService, dueOn }))
    wrong ??= "Class: a fixed date needs a day it is due.";
  return {
    item: {
      id: newId(),
      fields: fields as ImportedItem["fields"],
      own: own as OwnValues,
      state: typeof state === "string" ? state : null,
      parent: null,
      waitsFor: [],
    },
    problem: wrong,
    unused: unused.map(({ name }) => name),
  };
}

/** The state that a cell names, where items do not begin in it anyway; null: they begin there. */
function stateOf(
  cell: string,
  typeId: string,
  { states, types }: TableGround,
): string | null | { problem: string } {
  if (cell === "") return null;
  const own = states[typeId] ?? [];
  const found = own.find(({ name }) => foldCase(name) === foldCase(cell));
  const type = types.find(({ id }) => id === typeId)?.name ?? "its type";
  if (!found) return { problem: `State: there is no state “${cell}” for ${capital(type)}.` };
  return found.id === own[0]?.id ? null : found.id;
}
