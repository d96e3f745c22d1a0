import { cardOf } from "@/core/board/card";
import { EVERY_ITEM } from "@/core/condition/condition";
import { factLabel, factUnit } from "@/core/condition/vocabulary";
import type { FactName } from "@/core/condition/facts";
import { writeCsv } from "@/core/formats/csv";
import type { ListGroup } from "@/core/item/list/arrange";
import { groupLabel } from "@/core/item/list/group";
import { PLAIN_LIST } from "@/core/item/list/query";
import {
  cellText,
  EXPORT_PART,
  summedOf,
  type ExportAsked,
  type ExportView,
  type TableAsked,
  type TableGroup,
  type TableHead,
  type TableRow,
  type TableView,
} from "@/core/item/list/table";
import type { Viewer } from "../../people/viewer";
import { snapshotOf } from "../rows";
import { withVisibleOthers } from "../visible-others";
import { enterList, narrowed, placeIn, type EnteredList } from "./enter";
import { readAnchors, readGroups, readListPage, readRows, readValues, type ListOf } from "./read";

/** Rows of a table of one project, as far as somebody may see them, with its groups and sums. */
export async function readTable(
  viewer: Viewer,
  projectKey: string,
  { board, standing, condition, columns, after, skip, limit, head, at, ...order }: TableAsked,
  now = at ?? Date.now(),
): Promise<TableView> {
  const entered = await enterList(viewer, projectKey, now);
  const of = await narrowed(entered, condition, {
    board,
    standing,
    facts: asksFor(order, columns),
  });
  const query = { ...order, sums: summedOf(columns, of.asker.vocabulary) };
  const from = placeIn(of, query, after);
  const [page, told] = await Promise.all([
    readListPage(of, query, { after: from, skip, limit }),
    head ? readHead(entered, of, { ...query, columns }) : null,
  ]);
  return { rows: await rowsOf(entered, of, page.ids, columns), head: told, at: now };
}

/** The facts that a table is ordered and grouped by, and shows. */
const asksFor = (
  { sort, group }: Pick<TableAsked, "sort" | "group">,
  columns: readonly FactName[],
): FactName[] => [...sort.map(({ fact }) => fact), ...(group === null ? [] : [group]), ...columns];

type Asked = Pick<TableAsked, "sort" | "group" | "columns"> & { sums: FactName[] };

/** The rows of a page in its order: each item's card, and what its columns say. */
async function rowsOf(
  { ground, viewer }: EnteredList,
  of: ListOf,
  ids: string[],
  columns: readonly FactName[],
): Promise<TableRow[]> {
  const [items, values] = await Promise.all([
    readRows(of.reader, { ids }),
    readValues(of, ids, columns),
  ]);
  const seen = await withVisibleOthers(of.reader, viewer, items);
  return seen.map((row) => ({
    card: cardOf(snapshotOf(row), ground.keyOf(row.projectId)),
    values: values.get(row.id)!,
  }));
}

async function readHead(entered: EnteredList, of: ListOf, asked: Asked): Promise<TableHead> {
  const whole = { ...asked, group: null };
  const grouped = asked.group !== null;
  const everything = await narrowed(entered, EVERY_ITEM, { board: null });
  const [groups, [total], [{ count }], anchors] = await Promise.all([
    grouped ? readGroups(of, asked) : [],
    readGroups(of, whole),
    readGroups(everything, PLAIN_LIST),
    readAnchors(of, asked),
  ]);
  const told = (group: ListGroup) => tableGroup(group, asked, of);
  return {
    groups: (grouped ? groups : [total]).map(told),
    total: { ...told({ ...total, key: null }), label: "" },
    anchors,
    of: count,
  };
}

/** A group with the sum of each column beside it. */
function tableGroup(
  { key, count, sums }: ListGroup,
  { group, columns, sums: summed }: Asked,
  { asker }: ListOf,
): TableGroup {
  const label = group === null ? "" : groupLabel(group, key, asker.vocabulary);
  const sumOf = (fact: FactName) => sums[summed.indexOf(fact)] ?? null;
  return { key, label, count, sums: columns.map(sumOf) };
}

/** A part of the same list as lines of a file, as far as somebody may see it. */
export async function exportTable(
  viewer: Viewer,
  projectKey: string,
  { board, standing, condition, columns, after, at, ...order }: ExportAsked,
  now = at ?? Date.now(),
): Promise<ExportView> {
  const entered = await enterList(viewer, projectKey, now);
  const of = await narrowed(entered, condition, {
    board,
    standing,
    facts: asksFor(order, columns),
  });
  const query = { ...order, sums: [] };
  const from = placeIn(of, query, after);
  const page = await readListPage(of, query, { after: from, limit: EXPORT_PART });
  const rows = await rowsOf(entered, of, page.ids, columns);
  const { vocabulary } = of.asker;
  const lines = rows.map(({ card, values }) => [
    card.key,
    card.title,
    ...columns.map((fact, i) => cellText(fact, values[i], vocabulary)),
  ]);
  const head = ["key", "title", ...columns.map((fact) => columnHead(fact, of))];
  return {
    csv: writeCsv(from === null ? [head, ...lines] : lines),
    rows: rows.length,
    next: page.next,
    at: now,
  };
}

/** The name of a column, with its unit where that is not in the name. */
function columnHead(fact: FactName, { asker: { vocabulary } }: ListOf): string {
  const [label, unit] = [factLabel(fact, vocabulary), factUnit(fact, vocabulary)];
  return unit === "" || label.includes(unit) ? label : `${label} (${unit})`;
}
