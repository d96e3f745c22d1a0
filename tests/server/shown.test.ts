import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { PLAIN_FIELD, type OwnField } from "@/core/item/own-field";
import type { ShownSource } from "@/core/item/shown-source";
import { grouped } from "@/core/item/grouped";
import { PLAIN_LIST } from "@/core/item/list/query";
import { tableBody } from "@/core/item/list/table";
import { database } from "@/db/connection";
import { item, itemLink, project, sprint } from "@/db/schema";
import { readShown } from "@/server/condition/shown";
import { createItem } from "@/server/item/create";
import { readTable } from "@/server/item/list/table";
import { editOwnField, loadOwnFields } from "@/server/item/own-fields";
import { readItem } from "@/server/item/read";
import { refusalOf, send } from "./setup/board";
import { ARTHUR, INES, NOOR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

type Saved = Pick<OwnField, "id" | "name" | "kind"> & Partial<OwnField>;
const save = (field: Saved) =>
  editOwnField(INES, "TIX", { kind: "save", field: { ...PLAIN_FIELD, ...field } });
const show = (id: string, kind: OwnField["kind"], source: ShownSource) =>
  save({ id, name: `Shows ${id}`, kind, source });

const make = (title: string, more: object = {}, parentId: string | null = null) =>
  createItem(INES, {
    commandId: randomUUID(),
    projectKey: "TIX",
    parentId,
    fields: { title, typeId: "story", ...more },
  }).then(({ card }) => card);
const shownOf = async (key: string, viewer = NOOR) => (await readItem(viewer, key)).shown;
const edit = async (key: string, changes: object) => {
  const { id, version } = (await readItem(INES, key)).item;
  await send(INES, id, { kind: "edit", seenVersion: version, changes });
};

test("values of the parent, of several children, of what it waits for; as they change", async () => {
  await show("p-due", "shown date", { from: "parent", of: "dueOn", by: null });
  await show("p-who", "shown text", { from: "parent", of: "assignee", by: null });
  await show("c-sum", "shown number", { from: "children", of: "estimate", by: "sum" });
  await show("c-count", "shown number", { from: "children", of: "key", by: "count" });
  await show("w-keys", "shown text", { from: "waits for", of: "key", by: "list" });
  const parent = await make("Above", { dueOn: "2027-03-01", assigneeId: "ivo" });
  const child = await make("Below", { typeId: "task", estimate: 3 }, parent.id);
  await make("Below too", { typeId: "task", estimate: 5 }, parent.id);
  expect(await shownOf(child.key)).toMatchObject({ "p-due": "2027-03-01", "p-who": "Ivo Sandell" });
  expect(await shownOf(parent.key)).toMatchObject({ "c-sum": 8, "c-count": 2 });
  await edit(parent.key, { dueOn: "2027-04-02", assigneeId: null });
  const shown = await shownOf(child.key);
  expect([shown["p-due"], shown["p-who"]]).toEqual(["2027-04-02", undefined]);
  const other = await make("Waited for");
  await send(INES, parent.id, { kind: "link", linkKind: "waits for", otherKey: other.key });
  expect((await shownOf(parent.key))["w-keys"]).toBe(other.key);
});

test("in a table: shown, sorted, summed up, and asked for by conditions", async () => {
  await show("sizes", "shown number", { from: "children", of: "estimate", by: "sum" });
  const [a, b] = [await make("Tablewise a"), await make("Tablewise b")];
  await make("x", { typeId: "task", estimate: 2 }, a.id);
  await make("x", { typeId: "task", estimate: 9 }, b.id);
  const fact = "own.shown number.sizes" as const;
  const titled = { kind: "compare", fact: "title", op: "contains", value: "Tablewise" } as const;
  const read = (condition: object) =>
    readTable(
      NOOR,
      "TIX",
      tableBody.parse({
        ...PLAIN_LIST,
        board: null,
        condition,
        columns: [fact],
        sort: [{ fact, descending: true }],
        head: true,
      }),
    );
  const { rows, head } = await read(titled);
  expect(rows.map(({ card, values }) => [card.key, values])).toEqual([
    [b.key, [9]],
    [a.key, [2]],
  ]);
  expect(head!.total.sums[0]).toMatchObject({ sum: 11 });
  const more = { kind: "compare", fact, op: "more than", value: 5 } as const;
  const large = await read({ kind: "all", of: [titled, more] });
  expect(large.rows.map(({ card }) => card.key)).toEqual([b.key]);
});

test("nothing of an item that one may not see is shown, and it cannot be asked for", async () => {
  await show("above", "shown text", { from: "parent", of: "title", by: null });
  await show("links", "shown number", { from: "relates to", of: "key", by: "count" });
  const parent = await make("Secretly above");
  const child = await make("Openly below", { typeId: "task" }, parent.id);
  await send(INES, child.id, { kind: "link", linkKind: "relates to", otherKey: parent.key });
  expect(await shownOf(child.key, ARTHUR)).toMatchObject({ above: "Secretly above", links: 1 });
  await edit(parent.key, { restricted: true });
  expect((await shownOf(child.key, ARTHUR)).above).toBeUndefined();
  expect((await shownOf(child.key, ARTHUR)).links).toBe(0);
  expect((await shownOf(child.key, INES)).above).toBe("Secretly above");
  const fact = "own.shown text.above" as const;
  const condition = { kind: "compare", fact, op: "contains", value: "Secretly" } as const;
  const asked = tableBody.parse({ ...PLAIN_LIST, board: null, condition, columns: [fact] });
  expect((await readTable(ARTHUR, "TIX", asked)).rows).toEqual([]);
  expect((await readTable(INES, "TIX", asked)).rows).toHaveLength(1);
});

test("what cannot be shown is refused; what is shown cannot be set, nor taken out from under it", async () => {
  await save({ id: "berth", name: "Berth", kind: "text" });
  const berth: ShownSource = { from: "parent", of: "own.berth", by: null };
  await show("p-berth", "shown text", berth);
  const again = { from: "parent", of: "own.p-berth", by: null } as const;
  expect(await refusalOf(show("twice", "shown text", again))).toBe("invalid");
  expect(await refusalOf(show("wrong", "shown number", berth))).toBe("invalid");
  expect(await refusalOf(editOwnField(INES, "TIX", { kind: "remove", id: "berth" }))).toBe(
    "invalid",
  );
  const { id, key } = await make("Nobody sets it");
  const { version } = (await readItem(INES, key)).item;
  const own = { "p-berth": "3" };
  expect(
    await refusalOf(send(INES, id, { kind: "edit", seenVersion: version, changes: {}, own })),
  ).toBe("invalid");
});

test("over all items of the demo as a second computation says it", async () => {
  await show("all-sum", "shown number", { from: "children", of: "estimate", by: "sum" });
  await show("all-last", "shown date", { from: "children", of: "dueOn", by: "latest" });
  await show("all-sprint", "shown date", { from: "sprint", of: "endsOn", by: null });
  await show("all-above", "shown text", { from: "parent", of: "title", by: null });
  await show("all-waited", "shown number", { from: "waited for", of: "key", by: "count" });
  const db = database();
  const rows = await db.select().from(item).where(eq(item.projectId, "tix"));
  const links = await db.select().from(itemLink).where(eq(itemLink.kind, "waits for"));
  const sprints = new Map((await db.select().from(sprint)).map((one) => [one.id, one]));
  const byId = new Map(
    (await db.select().from(item).innerJoin(project, eq(project.id, item.projectId))).map((row) => [
      row.item.id,
      row.item,
    ]),
  );
  const there = (id: string | null) => {
    const found = id === null ? undefined : byId.get(id);
    return found && found.withdrawnAt === null ? found : undefined;
  };
  const children = grouped(
    [...byId.values()].filter(({ withdrawnAt }) => withdrawnAt === null),
    ({ parentId }) => parentId,
  );
  const said = await readShown(
    db,
    rows.map(({ id }) => id),
    await loadOwnFields(db, "tix"),
  );
  let told = 0;
  for (const row of rows) {
    const below = children.get(row.id) ?? [];
    const sizes = below.flatMap(({ estimate }) => estimate ?? []);
    const days = below.flatMap(({ dueOn }) => dueOn ?? []).toSorted();
    const expected = {
      "all-sum": sizes.length === 0 ? undefined : sizes.reduce((sum, size) => sum + size, 0),
      "all-last": days.at(-1),
      "all-sprint": row.sprintId === null ? undefined : sprints.get(row.sprintId)?.endsOn,
      "all-above": there(row.parentId)?.title,
      "all-waited": links.filter((l) => l.toItemId === row.id && there(l.fromItemId)).length,
    };
    const shown = said.get(row.id)!;
    expect([
      row.number,
      Object.fromEntries(Object.keys(expected).map((f) => [f, shown[f]])),
    ]).toEqual([row.number, expected]);
    told += Object.values(expected).filter((value) => value !== undefined && value !== 0).length;
  }
  expect(told).toBeGreaterThan(200);
});
