import { lanesByField } from "@/core/board/lanes-by";
import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import type { Condition } from "@/core/condition/condition";
import { DAY } from "@/core/calendar/instant";
import { writeLook } from "@/core/view/address";
import { PLAIN_LOOK, type Look } from "@/core/view/look";
import type { Sharing, View, ViewChanges, ViewRequest } from "@/core/view/view";
import { database } from "@/db/connection";
import { board, membership, view, viewUse } from "@/db/schema";
import { readAskedLook } from "@/server/view/asked-look";
import { editViews } from "@/server/view/edit";
import { readViews } from "@/server/view/read";
import { shortenLook } from "@/server/view/short-look";
import { readViewUses } from "@/server/view/uses";
import type { Viewer } from "@/server/people/viewer";
import { itemIn, refusalOf, send } from "./setup/board";
import { ARTHUR, INES, IVO, NOOR, OSKAR, TOMAS } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const BUGS: Condition = { kind: "compare", fact: "typeId", op: "is", value: "bug" };
const TABLE: Look = { ...PLAIN_LOOK, arrangement: "table", filter: BUGS };

const edit = (viewer: Viewer, request: ViewRequest) => editViews(viewer, "TIX", request);
async function make(viewer: Viewer, sharing: Sharing, name = "Leaks at the pier", look = TABLE) {
  const id = randomUUID();
  await edit(viewer, { kind: "make", id, name, sharing, look });
  return id;
}
const seen = async (viewer: Viewer, id: string): Promise<View | undefined> =>
  (await readViews(viewer, "TIX")).views.find((v) => v.id === id);
const change = (viewer: Viewer, id: string, version: number, changes: ViewChanges) =>
  edit(viewer, { kind: "change", id, version, changes });

describe("whose a view is", () => {
  test("mine is seen by nobody else, shown by all, the project's changed by leads", async () => {
    const [mine, shown, project] = [
      await make(NOOR, "mine"),
      await make(NOOR, "shown"),
      await make(INES, "project"),
    ];
    const may = async (viewer: Viewer) =>
      Promise.all([mine, shown, project].map(async (id) => (await seen(viewer, id))?.mayChange));
    expect(await may(NOOR)).toEqual([true, true, false]);
    expect(await may(IVO)).toEqual([undefined, false, false]);
    expect(await may(INES)).toEqual([undefined, false, true]);
    expect(await may(ARTHUR)).toEqual([undefined, false, false]);
    expect((await seen(IVO, shown))!.owner).toEqual({
      id: "noor",
      name: "Noor Bakri",
      gone: false,
    });
  });
  test("who may not, is refused, and nothing is changed", async () => {
    const [mine, shown] = [await make(NOOR, "mine"), await make(NOOR, "shown")];
    expect(await refusalOf(change(IVO, mine, 1, { name: "x" }))).toBe("not found");
    expect(await refusalOf(change(INES, mine, 1, { name: "x" }))).toBe("not found");
    expect(await refusalOf(change(IVO, shown, 1, { name: "x" }))).toBe("not allowed");
    expect(await refusalOf(edit(IVO, { kind: "put away", id: shown }))).toBe("not allowed");
    expect(await refusalOf(edit(IVO, { kind: "favourite", id: mine, on: true }))).toBe("not found");
    expect(await refusalOf(make(NOOR, "project"))).toBe("not allowed");
    expect(await refusalOf(make(ARTHUR, "shown"))).toBe("not allowed");
    expect(await refusalOf(edit(NOOR, { kind: "frame", ids: [] }))).toBe("not allowed");
    expect(await refusalOf(readViewUses(NOOR, "TIX"))).toBe("not allowed");
    expect(await seen(NOOR, mine)).toMatchObject({ name: "Leaks at the pier", version: 1 });
    // Whoever only looks keeps views of their own.
    expect(await seen(ARTHUR, await make(ARTHUR, "mine"))).toMatchObject({ mayChange: true });
  });
  test("a lead looks after what somebody left behind who is gone, and links say whose it was", async () => {
    const id = await make(TOMAS, "shown");
    await database().delete(membership).where(eq(membership.personId, "tomas"));
    expect(await seen(INES, id)).toMatchObject({ mayChange: true, owner: { gone: true } });
    expect(await seen(NOOR, id)).toMatchObject({ mayChange: false });
    const { notes } = await readAskedLook(NOOR, "TIX", { view: id });
    expect(notes).toEqual(["Tomas Kerr, whose view it is, belongs to the project no more."]);
  });
});

describe("two people at one view", () => {
  test("changes of different parts go together; of the same one, the later is told", async () => {
    const id = await make(INES, "project");
    await change(INES, id, 1, { group: "priority" });
    await change(INES, id, 1, { dense: true, name: "Bugs" });
    expect(await seen(INES, id)).toMatchObject({
      name: "Bugs",
      version: 3,
      look: { ...TABLE, group: "priority", dense: true },
    });
    await expect(change(INES, id, 2, { name: "Leaks", group: null })).rejects.toMatchObject({
      refusal: {
        code: "conflict",
        sentence: "Ines Dahl changed the same of “Bugs” meanwhile.",
        conflict: [{ field: "name", current: "Bugs" }],
        version: 3,
      },
    });
    expect(await seen(INES, id)).toMatchObject({ name: "Bugs", look: { group: "priority" } });
    // Saying what it is already is no change.
    await change(INES, id, 1, { name: "Bugs" });
    expect((await seen(INES, id))!.version).toBe(3);
  });
  test("many at once lose nothing of different parts", async () => {
    const id = await make(INES, "project");
    const parts: ViewChanges[] = [
      { group: "priority" },
      { dense: true },
      { name: "All at once" },
      { sum: null },
      { lanes: lanesByField("assigneeId") },
    ];
    await Promise.all(parts.map((changes) => change(INES, id, 1, changes)));
    expect(await seen(INES, id)).toMatchObject({
      name: "All at once",
      version: 6,
      look: { group: "priority", dense: true, sum: null, lanes: lanesByField("assigneeId") },
    });
  });
});

test("made twice with one id it is there once", async () => {
  const id = randomUUID();
  const request: ViewRequest = { kind: "make", id, name: "Once", sharing: "mine", look: TABLE };
  await Promise.all([edit(NOOR, request), edit(NOOR, request)]);
  expect((await readViews(NOOR, "TIX")).views.filter((v) => v.name === "Once")).toHaveLength(1);
});

test("the frame is the same for all, in its order; what one keeps to oneself stands in none", async () => {
  const [a, b, mine] = [
    await make(INES, "project", "A"),
    await make(NOOR, "shown", "B"),
    await make(INES, "mine", "C"),
  ];
  await edit(INES, { kind: "frame", ids: [b, a] });
  const frame = async (viewer: Viewer) =>
    (await readViews(viewer, "TIX")).views.filter((v) => v.place !== null).map((v) => v.name);
  expect(await frame(ARTHUR)).toEqual(["B", "A"]);
  expect(await refusalOf(edit(INES, { kind: "frame", ids: [mine] }))).toBe("invalid");
  expect(await refusalOf(edit(INES, { kind: "frame", ids: [randomUUID()] }))).toBe("invalid");
  expect(await frame(ARTHUR)).toEqual(["B", "A"]);
  await change(NOOR, b, 1, { sharing: "mine" });
  expect(await frame(NOOR)).toEqual(["A"]);
});

test("favourites are each person's own", async () => {
  const id = await make(INES, "project");
  await edit(NOOR, { kind: "favourite", id, on: true });
  expect((await seen(NOOR, id))!.favourite).toBe(true);
  expect((await seen(IVO, id))!.favourite).toBe(false);
  await edit(NOOR, { kind: "favourite", id, on: false });
  expect((await seen(NOOR, id))!.favourite).toBe(false);
});

describe("a link", () => {
  test("shows another the same, with what differs", async () => {
    const id = await make(INES, "project");
    const shown: Look = { ...TABLE, group: "severity", dense: true };
    const asked = await readAskedLook(ARTHUR, "TIX", { view: id, ...writeLook(TABLE, shown) });
    expect(asked).toMatchObject({ view: { id }, kept: TABLE, look: shown, notes: [] });
  });
  test("says what of it cannot be shown, and shows the rest", async () => {
    const mine = await make(NOOR, "mine", "Nobody's business");
    const notes = async (search: Record<string, string>, viewer = IVO) =>
      (await readAskedLook(viewer, "TIX", search)).notes.join(" ");
    const hidden = await notes({ view: mine });
    expect(hidden).toMatch(/not there, or its owner keeps it/);
    expect(await notes({ view: randomUUID() })).toBe(hidden);
    expect(await notes({ view: "no id at all" })).toBe(hidden);
    expect(await notes({ board: "gone" })).toMatch(/board of this view is gone/);
    expect(await notes({ only: "{" })).toMatch(/says something of the filter/);
    expect(await notes({ groups: "own.text.never" })).toMatch(/groups/);
    expect(await notes({ sort: "own.text.never" })).toMatch(/“a field that is gone” was taken out/);
    expect(await notes({ look: "unknown" })).toMatch(/short link/);
    const { look, kept } = await readAskedLook(IVO, "TIX", { as: "table", only: "{" });
    expect(look).toEqual({ ...PLAIN_LOOK, arrangement: "table" });
    // A board, or its items as a table, is a beginning of its own and differs from nothing.
    expect(kept).toEqual(look);
    const board = await readAskedLook(IVO, "TIX", {
      board: "tix-people",
      only: writeLook(PLAIN_LOOK, TABLE).only,
    });
    expect(board.kept).toEqual({ ...PLAIN_LOOK, board: "tix-people" });
    expect(board.look).toEqual({ ...PLAIN_LOOK, board: "tix-people", filter: BUGS });
    expect(await notes({ board: "gone", as: "table" })).toMatch(/board of this view is gone/);
  });
  test("to what was put away shows what it was; brought back it is there again", async () => {
    const id = await make(NOOR, "shown");
    await edit(NOOR, { kind: "put away", id });
    expect(await seen(NOOR, id)).toBeUndefined();
    const asked = await readAskedLook(IVO, "TIX", { view: id });
    expect(asked).toMatchObject({ view: null, look: TABLE });
    expect(asked.notes[0]).toMatch(/“Leaks at the pier” was put away/);
    // Where somebody may not look at the project, its views are not told either.
    expect(await refusalOf(readAskedLook(OSKAR, "TIDE", { view: id }))).toBe("not found");
    expect((await readAskedLook(OSKAR, "GATE", { view: id })).notes[0]).toMatch(/not there/);
    await edit(NOOR, { kind: "bring back", id });
    expect(await seen(NOOR, id)).toBeDefined();
  });
  test("that is too long stands under a short id, the same for the same look", async () => {
    const search = writeLook(PLAIN_LOOK, TABLE);
    const { id } = await shortenLook(NOOR, "TIX", search);
    const turned = Object.fromEntries(Object.entries(search).reverse());
    expect(await shortenLook(IVO, "TIX", turned)).toEqual({ id });
    expect(id.length).toBeLessThan(20);
    expect(await readAskedLook(IVO, "TIX", { look: id })).toMatchObject({ look: TABLE, notes: [] });
  });
});

test("named conditions are for all; each name stands once, and leads give them", async () => {
  const id = randomUUID();
  const name = (viewer: Viewer, words: string, as = id) =>
    edit(viewer, { kind: "name condition", id: as, name: words, condition: BUGS });
  await name(INES, "only bugs");
  expect(await refusalOf(name(NOOR, "mine"))).toBe("not allowed");
  expect(await refusalOf(name(INES, "ONLY bugs", randomUUID()))).toBe("invalid");
  await name(INES, "bugs alone");
  const named = async () => (await readViews(NOOR, "TIX")).named.filter((n) => n.id === id);
  expect(await named()).toEqual([{ id, name: "bugs alone", condition: BUGS }]);
  // An id of another project's is not changed from here.
  await editViews(INES, "GATE", { kind: "name condition", id, name: "stolen", condition: BUGS });
  expect((await named())[0].name).toBe("bugs alone");
  await edit(INES, { kind: "unname condition", id });
  expect(await named()).toEqual([]);
});

describe("what leads see of the views", () => {
  test("who opened them, which are nearly the same, and what was put away", async () => {
    const [a, b] = [
      await make(INES, "project", "Bugs, wide"),
      await make(NOOR, "shown", "Bugs, narrow", { ...TABLE, dense: true }),
    ];
    const hidden = await make(NOOR, "mine", "Bugs, hidden");
    for (const viewer of [ARTHUR, IVO]) await readAskedLook(viewer, "TIX", { view: b });
    await database()
      .update(viewUse)
      .set({ openedAt: Date.now() - 70 * DAY })
      .where(eq(viewUse.personId, "arthur"));
    const { uses } = await readViewUses(INES, "TIX");
    const of = (id: string) => uses.find((use) => use.id === id);
    expect(of(a)).toMatchObject({ openedAt: null, people: 0, owner: null });
    expect(of(b)).toMatchObject({
      people: 1,
      owner: "Noor Bakri",
      like: { how: ["in narrow rows"] },
    });
    expect(of(b)!.openedAt).toBeGreaterThan(Date.now() - 60_000);
    expect(of(hidden)).toBeUndefined();
  });
  test("which items no board and no shared view shows", async () => {
    const before = (await readViewUses(INES, "TIX")).unseen;
    expect(before).toEqual({ count: 0, keys: [] });
    // All boards and views of the project are about bugs from now on.
    await database().update(view).set({ look: TABLE }).where(eq(view.groundId, "tix"));
    await database().update(board).set({ scope: BUGS }).where(eq(board.projectId, "tix"));
    const id = await itemIn(NOOR, "Nobody looks at me", "Ready");
    const after = (await readViewUses(INES, "TIX")).unseen;
    expect(after.count).toBeGreaterThan(20);
    await send(NOOR, id, { kind: "edit", seenVersion: 2, changes: { typeId: "bug" }, own: {} });
    expect((await readViewUses(INES, "TIX")).unseen.count).toBe(after.count - 1);
  });
});
