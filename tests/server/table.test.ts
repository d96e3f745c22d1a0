import { randomUUID } from "node:crypto";
import { execFileSync } from "node:child_process";
import { writeFileSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { parse } from "csv-parse/sync";
import { and, eq, isNull, ne, sql } from "drizzle-orm";
import { EVERY_ITEM, type Condition } from "@/core/condition/condition";
import { ANCHOR_EVERY } from "@/core/item/list/query";
import { EXPORT_PART, tableBody, type TableAsked } from "@/core/item/list/table";
import { database, pool } from "@/db/connection";
import { board, item } from "@/db/schema";
import type { PromiseRow } from "@/core/intake/promises-view";
import { readPromises } from "@/server/intake/promises";
import { readMatching } from "@/server/item/list/matching";
import { createItem } from "@/server/item/create";
import { exportTable, readTable } from "@/server/item/list/table";
import type { Viewer } from "@/server/people/viewer";
import { itemIn, refusalOf, send } from "./setup/board";
import { ARTHUR, INES, NOOR, OSKAR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const OPEN: Condition = { kind: "compare", fact: "stateKind", op: "is not", value: "finished" };
const asked = (more: Partial<TableAsked> = {}): TableAsked => ({
  ...tableBody.parse({ condition: EVERY_ITEM }),
  ...more,
});
const read = (more: Partial<TableAsked> = {}, viewer: Viewer = NOOR) =>
  readTable(viewer, "TIX", asked(more));
const inTix = and(eq(item.projectId, "tix"), isNull(item.withdrawnAt));

test("rows, groups and sums of a table are those of plain SQL", async () => {
  const { rows, head } = await read({
    condition: OPEN,
    group: "priority",
    sort: [{ fact: "priority", descending: true }],
    columns: ["estimate", "age", "labels", "stateId"],
    limit: 200,
  });
  const plain = await pool().query<{ priority: string; n: number; sum: number }>(
    `select priority, count(*)::int as n, coalesce(sum(estimate), 0)::float8 as sum from item
      where project_id = 'tix' and withdrawn_at is null and state_kind <> 'finished' and not restricted
      group by priority order by array_position(array['urgent', 'high', 'normal', 'low'], priority)`,
  );
  expect(head!.groups.map(({ key, count, sums }) => [key, count, sums[0]])).toEqual(
    plain.rows.map(({ priority, n, sum }) => [priority, n, expect.objectContaining({ sum })]),
  );
  expect(head!.groups.flatMap((g) => g.sums.slice(2))).toEqual(
    head!.groups.flatMap(() => [null, null]),
  );
  expect(head!.total.count).toBe(plain.rows.reduce((n, row) => n + row.n, 0));
  for (const { card, values } of rows) {
    expect(values[0]).toBe(card.estimate);
    expect(values[2]).toEqual(card.labels);
    expect(values[3]).toBe(card.stateId);
  }
  expect(rows.slice(0, 2).map(({ card }) => card.priority)[0]).toBe(plain.rows[0].priority);
});

test("what was promised is a group, a filter and a column, as the page of promises says it", async () => {
  const now = Date.now();
  const { open } = await readPromises(INES, "TIX", now);
  const said = (row: PromiseRow) =>
    [row.answer, row.resolve].map((state) => state?.standing ?? "nothing");
  const idsOf = (fits: (standings: string[]) => boolean) =>
    open
      .filter((row) => fits(said(row)))
      .map(({ itemId }) => itemId)
      .sort();
  const missed = idsOf((both) => both.includes("missed"));
  const atRisk = idsOf((both) => both.includes("at risk") && !both.includes("missed"));
  const owed = idsOf((both) => both.some((one) => one !== "nothing"));
  expect(missed.length).toBeGreaterThan(0);
  const of = (...values: (string | null)[]): Condition => ({
    kind: "all",
    of: [OPEN, { kind: "compare", fact: "promise", op: "one of", value: values as string[] }],
  });
  const read = async (condition: Condition) =>
    readTable(INES, "TIX", {
      ...asked({ condition, group: "promise", columns: ["promise"], limit: 200 }),
      sort: [{ fact: "promise", descending: false }],
      at: now,
    });
  const grouped = await read(OPEN);
  expect(
    grouped.head!.groups.filter(({ key }) => key !== null).map(({ key, count }) => [key, count]),
  ).toEqual(
    [
      ["missed", missed.length],
      ["at risk", atRisk.length],
      ["kept so far", owed.length - missed.length - atRisk.length],
    ].filter(([, count]) => count !== 0),
  );
  const { rows } = await read(of("missed"));
  expect(rows.map(({ card }) => card.id).sort()).toEqual(missed);
  expect(new Set(rows.map(({ values }) => values[0]))).toEqual(new Set(["missed"]));
});

test("every row is reached, once, by anchors and skips, also when a thousand stand before it", async () => {
  // The demo has fewer than a page of anchors.
  await database().execute(
    sql`insert into item select (jsonb_populate_record(i, jsonb_build_object('id', gen_random_uuid(), 'number', 100000 + g * 1000 + i.number))).* from item as i, generate_series(1, 3) as g where i.project_id = 'tix'`,
  );
  const order = { sort: [{ fact: "title" as const, descending: false }], limit: 200 };
  const { head, at, rows } = await read(order);
  const total = head!.total.count;
  expect(total).toBeGreaterThan(2 * ANCHOR_EVERY);
  expect(head!.anchors).toHaveLength(Math.floor(total / ANCHOR_EVERY));
  const ids = rows.map(({ card }) => card.id);
  for (let first = 200; first < total; first += 200) {
    const anchor = Math.floor(first / ANCHOR_EVERY);
    const part = await read({
      ...order,
      at,
      after: anchor === 0 ? null : head!.anchors[anchor - 1],
      skip: first % ANCHOR_EVERY,
      head: false,
    });
    expect(part.head).toBeNull();
    ids.push(...part.rows.map(({ card }) => card.id));
  }
  const all = await database().select({ id: item.id }).from(item).where(inTix);
  expect(new Set(ids).size).toBe(total);
  expect(ids.length).toBe(total);
  expect(all.length).toBe(total);
});

test("as a file it is read by two other programs, row by row the same", async () => {
  const id = await itemIn(NOOR, '=1+1, "quoted"\tand\r\nbroken', "Ready");
  const columns = ["stateId", "estimate", "dueOn", "labels"] as const;
  const parts: string[] = [];
  let from: { after: string | null; at: number | null } = { after: null, at: null };
  let rows = 0;
  do {
    const { condition, sort, group, board: which } = asked();
    const part = await exportTable(NOOR, "TIX", {
      board: which,
      standing: false,
      condition,
      sort,
      group,
      columns: [...columns],
      ...from,
    });
    expect(part.rows).toBeLessThanOrEqual(EXPORT_PART);
    parts.push(part.csv);
    rows += part.rows;
    from = { after: part.next, at: part.at };
  } while (from.after !== null);
  const text = parts.join("");
  const records: string[][] = parse(text, { record_delimiter: "\r\n" });
  expect(records[0]).toEqual(["key", "title", "state", "estimate", "due date", "labels"]);
  expect(records).toHaveLength(rows + 1);
  const [row] = await database().select().from(item).where(eq(item.id, id));
  const made = records.find(([key]) => key === `TIX-${row.number}`)!;
  expect(made[1]).toBe(`'${row.title}`);
  const file = path.join(os.tmpdir(), `table-${process.pid}.csv`);
  writeFileSync(file, text);
  const python = execFileSync("python3", [
    "-c",
    "import csv,json,sys; print(json.dumps(list(csv.reader(open(sys.argv[1], newline=''), strict=True))))",
    file,
  ]);
  expect(JSON.parse(python.toString())).toEqual(records);
});

test("what somebody may not see is in no row, group, count or file", async () => {
  const id = await itemIn(INES, "Velvet rope at the vault");
  await send(INES, id, { kind: "edit", seenVersion: 1, changes: { restricted: true }, own: {} });
  const title: Condition = { kind: "compare", fact: "title", op: "contains", value: "Velvet rope" };
  const counts = async (viewer: Viewer) => {
    const table = await read({ condition: title, group: "priority" }, viewer);
    const { ids } = await readMatching(viewer, "TIX", { board: null, condition: title });
    const file = await exportTable(viewer, "TIX", { ...asked({ condition: title }), after: null });
    return [
      table.rows.length,
      table.head!.total.count,
      table.head!.groups.length,
      ids.length,
      file.rows,
    ];
  };
  expect(await counts(INES)).toEqual([1, 1, 1, 1, 1]);
  expect(await counts(NOOR)).toEqual([0, 0, 0, 0, 0]);
  expect((await read({}, NOOR)).head!.of).toBe((await read({}, INES)).head!.of - 1);
  expect(await refusalOf(readTable(OSKAR, "TIDE", asked()))).toBe("not found");
  expect((await read({ condition: OPEN }, ARTHUR)).rows.length).toBeGreaterThan(0);
});

test("a board's scope holds in its table as on the board; a board that is none is refused", async () => {
  const { head } = await read({ board: "tix-priorities", condition: OPEN });
  const [{ n }] = await database()
    .select({ n: sql<number>`count(*)::int` })
    .from(item)
    .where(and(inTix, eq(item.typeId, "bug"), ne(item.stateKind, "finished")));
  expect(head!.total.count).toBe(n);
  expect(await refusalOf(read({ board: "none such" }))).toBe("not found");
  expect(await refusalOf(read({ after: "no place" }))).toBe("invalid");
  await database().update(board).set({ scope: null }).where(eq(board.id, "tix-priorities"));
  expect(
    (await read({ board: "tix-priorities", condition: OPEN })).head!.total.count,
  ).toBeGreaterThan(n);
});

test("items are found by what stands under and above them, as far as somebody sees that", async () => {
  const parent = await itemIn(INES, "The whole pier");
  const { card: child } = await createItem(INES, {
    commandId: randomUUID(),
    projectKey: "TIX",
    parentId: parent,
    fields: { title: "A plank of larch", typeId: "task", priority: "urgent" },
  });
  const of = (fact: "title", value: string): Condition => ({
    kind: "compare",
    fact,
    op: "contains",
    value,
  });
  const above: Condition = { kind: "some", among: "children", of: [of("title", "plank of larch")] };
  const below: Condition = { kind: "some", among: "parent", of: [of("title", "whole pier")] };
  const found = async (condition: Condition, viewer = INES) =>
    (await read({ condition }, viewer)).rows.map(({ card }) => card.id);
  expect(await found(above)).toEqual([parent]);
  expect(await found(below)).toEqual([child.id]);
  const { total } = (await read({ condition: { kind: "not", of: above } }, INES)).head!;
  expect(total.count).toBe((await read({}, INES)).head!.total.count - 1);
  await database()
    .update(item)
    .set({ restricted: true, createdBy: "ivo" })
    .where(eq(item.id, child.id));
  expect(await found(above, NOOR)).toEqual([]);
  expect(await found(below, NOOR)).toEqual([]);
  expect(await found(above, INES)).toEqual([parent]);
});
