import { randomUUID } from "node:crypto";
import { and, eq, inArray, isNull } from "drizzle-orm";
import { readTable } from "@/core/formats/report-table";
import { itemColumns, matchItemColumns } from "@/core/item/csv/columns";
import { itemsOfTable } from "@/core/item/csv/read-items";
import type { ImportedItem } from "@/core/item/csv/request";
import { fieldsOfType } from "@/core/item/own-field";
import { database } from "@/db/connection";
import { item, itemLink } from "@/db/schema";
import { checkItems } from "@/server/item/check";
import { bringItems } from "@/server/item/csv/bring";
import { writeItemTable } from "@/server/item/csv/file";
import { readTableGround } from "@/server/item/csv/ground";
import { itemIn, refusalOf, send, stateId } from "./setup/board";
import { ARTHUR, INES, NOOR, OSKAR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const one = (title: string, more: Partial<ImportedItem> = {}): ImportedItem => ({
  id: randomUUID(),
  fields: { title, typeId: "story" },
  own: {},
  state: null,
  parent: null,
  waitsFor: [],
  ...more,
});
const bring = (items: ImportedItem[], by = NOOR) =>
  bringItems(by, "TIX", { kind: "import", items });
const rowOf = async (id: string) =>
  (await database().select().from(item).where(eq(item.id, id)))[0];

test("items are made under those before them, what is refused is told, and a retry makes nothing twice", async () => {
  const parent = one("Season passes", {
    fields: { title: "Season passes", typeId: "voyage", estimate: 3 },
  });
  const child = one("Pass on the phone", { parent: parent.id });
  const astray = one("Under nothing there", { parent: "TIX-999999" });
  const wrong = one("Of no type", { fields: { title: "Of no type", typeId: "ferry" } });
  const answer = await bring([parent, child, astray, wrong]);
  expect(answer.done).toBe(2);
  expect(answer.left.map(({ id }) => id)).toEqual([astray.id, wrong.id]);
  expect(await rowOf(child.id)).toMatchObject({
    title: "Pass on the phone",
    parentId: parent.id,
    createdBy: "noor",
  });
  const number = (await rowOf(child.id)).number;
  expect((await bring([parent, child])).done).toBe(2);
  expect((await rowOf(child.id)).number).toBe(number);
  const twins = await database()
    .select()
    .from(item)
    .where(and(eq(item.title, "Pass on the phone"), isNull(item.withdrawnAt)));
  expect(twins).toHaveLength(1);
  expect(await rowOf(astray.id)).toBeUndefined();
  expect((await checkItems()).findings).toEqual([]);
});

test("they are linked, put where they stood, and taken back, but for what somebody touched", async () => {
  const [a, b, c] = [one("First"), one("Second"), one("Third")];
  await bring([a, b, c]);
  const links = [
    { id: b.id, waitsFor: a.id },
    { id: c.id, waitsFor: c.id },
  ];
  const linked = await bringItems(NOOR, "TIX", { kind: "link", links });
  expect(linked).toMatchObject({ done: 1, left: [{ id: c.id }] });
  const found = await database()
    .select()
    .from(itemLink)
    .where(and(eq(itemLink.fromItemId, b.id), eq(itemLink.kind, "waits for")));
  expect(found.map(({ toItemId }) => toItemId)).toEqual([a.id]);
  const places = [{ id: a.id, to: await stateId("Building"), commandId: randomUUID() }];
  expect((await bringItems(NOOR, "TIX", { kind: "place", places })).done).toBe(1);
  expect((await rowOf(a.id)).stateKind).toBe("working");
  await send(NOOR, c.id, { kind: "comment", body: "Keep this one." });
  const items = [
    { id: c.id, placedBy: null },
    { id: b.id, placedBy: null },
    { id: a.id, placedBy: places[0].commandId },
  ];
  const back = await bringItems(NOOR, "TIX", { kind: "take back", items });
  expect(back.done).toBe(2);
  expect(back.left).toEqual([{ id: c.id, sentence: "Something has happened to it since." }]);
  const gone = await database()
    .select()
    .from(item)
    .where(inArray(item.id, [a.id, b.id]));
  expect(gone.every(({ withdrawnAt }) => withdrawnAt !== null)).toBe(true);
  expect((await rowOf(c.id)).withdrawnAt).toBeNull();
  // What stood there for a moment has no start in any figure.
  expect((await rowOf(a.id)).firstStartedAt).toBeNull();
  const other = await itemIn(NOOR, "Made by hand");
  // No move leads past the rules of a process: what was not brought in is not placed.
  const past = [{ id: other, to: await stateId("Live"), commandId: randomUUID() }];
  expect((await bringItems(NOOR, "TIX", { kind: "place", places: past })).done).toBe(0);
  const own = one("Placed once");
  await bring([own]);
  const live = { id: own.id, to: await stateId("Live"), commandId: randomUUID() };
  expect((await bringItems(INES, "TIX", { kind: "place", places: [live] })).done).toBe(0);
  const ready = { ...live, to: await stateId("Ready"), commandId: randomUUID() };
  expect((await bringItems(NOOR, "TIX", { kind: "place", places: [ready] })).done).toBe(1);
  const again = { ...live, commandId: randomUUID() };
  expect((await bringItems(NOOR, "TIX", { kind: "place", places: [again] })).done).toBe(0);
  expect((await rowOf(own.id)).stateKind).toBe("waiting");
  const byHand = [{ id: other, placedBy: null }];
  expect((await bringItems(NOOR, "TIX", { kind: "take back", items: byHand })).done).toBe(0);
  expect((await checkItems()).findings).toEqual([]);
});

test("who may not make items brings none in, who does not see a project nothing out of it", async () => {
  expect(await refusalOf(bring([one("Not for observers")], ARTHUR))).toBe("not allowed");
  expect(await refusalOf(bringItems(OSKAR, "TIDE", { kind: "import", items: [one("x")] }))).toBe(
    "not found",
  );
  expect(await refusalOf(writeItemTable(OSKAR, "TIDE"))).toBe("not found");
  const stranger = one("Under what one does not see");
  const hidden = await itemIn(INES, "A hidden parent");
  const [{ version: seenVersion, number }] = await database()
    .select()
    .from(item)
    .where(eq(item.id, hidden));
  await send(INES, hidden, { kind: "edit", seenVersion, changes: { restricted: true } });
  for (const parent of [hidden, `TIX-${number}`])
    expect((await bring([{ ...stranger, parent }])).left).toHaveLength(1);
  const { text } = await writeItemTable(NOOR, "TIX");
  expect(text).not.toContain("A hidden parent");
  expect((await writeItemTable(INES, "TIX")).text).toContain("A hidden parent");
});

test("all items of a project, written and read again, are the same items", async () => {
  const { text, name } = await writeItemTable(INES, "TIX");
  expect(name).toBe("TIX items.csv");
  const table = readTable(text);
  const ground = await readTableGround(INES, "TIX");
  const match = matchItemColumns(table.header, itemColumns(ground.own));
  expect(Object.keys(match)).toHaveLength(table.header.length);
  const read = itemsOfTable(table, match, { ground, newId: () => randomUUID() });
  expect(read.problems).toEqual([]);
  const rows = await database()
    .select()
    .from(item)
    .where(and(eq(item.projectId, "tix"), isNull(item.withdrawnAt)));
  expect(read.items).toHaveLength(rows.length);
  const keyAt = new Map(table.rows.map((cells, i) => [table.lines[i], cells[match.key!]]));
  const byKey = new Map(rows.map((row) => [`TIX-${row.number}`, row]));
  const idAt = new Map(read.items.map(({ row, item: of }) => [of.id, keyAt.get(row)!]));
  for (const { row, item: back } of read.items) {
    const was = byKey.get(keyAt.get(row)!)!;
    expect(back.fields).toMatchObject({
      typeId: was.typeId,
      priority: was.priority,
      ...(was.estimate === null ? {} : { estimate: was.estimate }),
      ...(was.assigneeId === null ? {} : { assigneeId: was.assigneeId }),
      ...(was.sprintId === null ? {} : { sprintId: was.sprintId }),
      ...(was.dueOn === null ? {} : { dueOn: was.dueOn }),
    });
    const taken = fieldsOfType(ground.own, was.typeId).map(({ id }) => id);
    expect(back.own).toEqual(
      Object.fromEntries(Object.entries(was.own).filter(([id]) => taken.includes(id))),
    );
    const parent = rows.find(({ id }) => id === was.parentId);
    expect(back.parent === null ? null : idAt.get(back.parent)).toBe(
      parent ? `TIX-${parent.number}` : null,
    );
  }
});
