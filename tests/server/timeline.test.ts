import { randomUUID } from "node:crypto";
import { and, eq, ne } from "drizzle-orm";
import { addDays } from "@/core/calendar/month";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { EVERY_ITEM, type Condition } from "@/core/condition/condition";
import { database } from "@/db/connection";
import { item } from "@/db/schema";
import { createItem } from "@/server/item/create";
import { readTimeline, readTimelineForecast } from "@/server/timeline/read";
import type { Viewer } from "@/server/people/viewer";
import { itemIn, refusalOf, send } from "./setup/board";
import { ARTHUR, INES, IVO, NOOR, OSKAR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const today = dayNumber(Date.now(), "Europe/London");
const read = (who: Viewer, of: { condition?: Condition; group?: "assigneeId" } = {}, key = "TIX") =>
  readTimeline(who, key, { board: null, condition: EVERY_ITEM, group: null, ...of });
const rowOf = async (id: string, who: Viewer = INES) =>
  (await read(who)).items.find((one) => one.id === id);
const edit = async (id: string, changes: object, who: Viewer = INES) => {
  const [{ version: seenVersion }] = await database().select().from(item).where(eq(item.id, id));
  await send(who, id, { kind: "edit", seenVersion, changes });
};
const child = async (parentId: string, title: string, typeId: string, fields: object = {}) => {
  await createItem(INES, {
    commandId: randomUUID(),
    projectKey: "TIX",
    parentId,
    fields: { title, typeId, ...fields },
  });
  const [row] = await database().select().from(item).where(eq(item.title, title));
  return row.id;
};

test("an item stands there with the days that it was begun and is planned, and nothing planned backwards", async () => {
  const id = await itemIn(NOOR, "Quay lamp", "Ready", "Building");
  const [from, to] = [isoDate(today + 2), isoDate(today + 9)];
  await edit(id, { plannedFrom: from, plannedTo: to, dueOn: to });
  expect(await rowOf(id)).toMatchObject({
    startedOn: today,
    finishedOn: null,
    plannedFrom: today + 2,
    plannedTo: today + 9,
    dueOn: today + 9,
    level: 1,
    mayEdit: true,
  });
  expect(await refusalOf(edit(id, { plannedTo: isoDate(today) }))).toBe("invalid");
  expect(await refusalOf(edit(id, { plannedFrom: addDays(to, 1) }))).toBe("invalid");
  await edit(id, { plannedFrom: null, plannedTo: null });
  expect(await rowOf(id)).toMatchObject({ plannedFrom: null, plannedTo: null });
});

test("a large piece goes from the first to the last day of what is under it, as far as one sees that", async () => {
  const all = await read(INES);
  const voyage = all.items.find(({ below, level }) => level === 2 && below!.items === 0)?.id;
  const id =
    voyage ??
    (await child(all.items.find(({ level }) => level === 3)!.id, "A voyage of its own", "voyage"));
  await child(id, "Near one", "story", {
    plannedFrom: isoDate(today + 5),
    plannedTo: isoDate(today + 8),
  });
  const far = await child(id, "Far one", "story", {
    plannedFrom: isoDate(today + 20),
    plannedTo: isoDate(today + 30),
  });
  await edit(far, { restricted: true });
  const span = { from: today + 5, to: today + 30, items: 2, done: 0, begun: false };
  expect((await rowOf(id))!.below).toEqual(span);
  expect((await rowOf(id, IVO))!.below).toEqual({ ...span, to: today + 8, items: 1 });
  expect((await read(IVO)).items.some((one) => one.id === far)).toBe(false);
});

test("rows stand in groups, what waits for what is told only among what is shown", async () => {
  const [a, b] = [await itemIn(NOOR, "Rope one"), await itemIn(NOOR, "Rope two")];
  const [{ number }] = await database().select().from(item).where(eq(item.id, b));
  await send(INES, a, { kind: "link", linkKind: "waits for", otherKey: `TIX-${number}` });
  expect((await read(INES)).waits).toContainEqual({ id: a, forId: b });
  await edit(b, { restricted: true });
  expect((await read(IVO)).waits.some(({ id }) => id === a)).toBe(false);
  await edit(a, { assigneeId: "ruth" });
  const { items, groups } = await read(INES, { group: "assigneeId" });
  const known = new Set(groups.map(({ key }) => key));
  expect(items.every(({ group }) => known.has(group))).toBe(true);
  expect(items.find(({ id }) => id === a)!.group).toBe("ruth");
  expect(groups.find(({ key }) => key === "ruth")!.label).toBe("Ruth Abara");
});

test("what finished long ago is left out and counted; who may not see the project sees nothing", async () => {
  const { items, left, of } = await read(INES);
  expect(items.length + left.finished + left.more).toBe(of);
  expect(left.finished).toBeGreaterThan(0);
  const [{ id }] = await database()
    .select({ id: item.id })
    .from(item)
    .where(and(eq(item.projectId, "tix"), ne(item.stateKind, "finished")))
    .limit(1);
  expect(items.some((one) => one.id === id)).toBe(true);
  expect(await refusalOf(read(OSKAR, {}, "TIDE"))).toBe("not found");
  expect((await read(ARTHUR)).items.every(({ mayEdit }) => !mayEdit)).toBe(true);
});

test("what is open is foretold, of what one sees: first what is in progress, then row by row", async () => {
  const { until, took } = await readTimelineForecast(INES, "TIX");
  expect(took).toBeGreaterThan(0);
  const { items } = await read(INES);
  const units = items.filter(({ level, stateKind }) => level === 1 && stateKind === "unstarted");
  const days = units.flatMap(({ id }) => (until[id]?.sure == null ? [] : [until[id].sure]));
  expect(days.length).toBeGreaterThan(10);
  expect(days).toEqual(days.toSorted((a, b) => a - b));
  for (const { sure, even } of Object.values(until))
    if (sure !== null && even !== null) expect(even).toBeLessThanOrEqual(sure);
  const hidden = await itemIn(INES, "Secret lamp", "Ready", "Building");
  await edit(hidden, { restricted: true });
  expect((await readTimelineForecast(INES, "TIX")).until[hidden]).toBeDefined();
  expect((await readTimelineForecast(IVO, "TIX")).until[hidden]).toBeUndefined();
});

test("what has finished keeps its days, and a sprint and a release stand as marks", async () => {
  const id = await itemIn(NOOR, "Painted buoy", "Ready", "Building");
  const { sprints, releases } = await read(INES);
  expect(sprints.map(({ from }) => from)).toEqual(
    sprints.map(({ from }) => from).toSorted((a, b) => a - b),
  );
  expect(releases.some(({ from }) => from > today)).toBe(true);
  expect(sprints.every(({ from, to }) => to - from === 13)).toBe(true);
  expect(await rowOf(id)).toMatchObject({ startedOn: today });
});
