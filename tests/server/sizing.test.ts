import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { FIRST_SCALES } from "@/core/plan/size-scale";
import type { SizingAct } from "@/core/plan/sizing-view";
import { database } from "@/db/connection";
import { item } from "@/db/schema";
import type { Viewer } from "@/server/people/viewer";
import { readAlike } from "@/server/plan/alike-sized";
import { editPlanSettings } from "@/server/plan/settings";
import { actOnSizing, readSizing } from "@/server/plan/sizing";
import { settingAt } from "@/server/workflow/dated-settings";
import { ANSWERS, itemIn, move, refusalOf, send, TO_LIVE } from "./setup/board";
import { ARTHUR, INES, IVO, NOOR, OSKAR, TOMAS } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const act = (by: Viewer, body: SizingAct) => actOnSizing(by, "TIX", body);
const roundOf = async (by: Viewer, id: string) =>
  (await readSizing(by, "TIX")).rounds.find((round) => round.id === id)!;
const sizeOf = async (id: string) =>
  (await database().select().from(item).where(eq(item.id, id)))[0].estimate;

test("what each says stays with them until it is shown; then it is settled, once", async () => {
  const itemId = await itemIn(NOOR, "Winch for the new boat");
  const before = (await readSizing(INES, "TIX")).unsizedTotal;
  const id = randomUUID();
  await act(INES, { kind: "open", id, itemId });
  // Another one about the same item is the same round.
  const second = randomUUID();
  await act(IVO, { kind: "open", id: second, itemId });
  expect(await roundOf(IVO, second)).toBeUndefined();
  expect(await refusalOf(act(INES, { kind: "show", id }))).toBe("invalid");
  await act(INES, { kind: "say", id, size: 3 });
  await act(IVO, { kind: "say", id, size: 13 });
  await act(IVO, { kind: "say", id, size: 8 });
  await act(TOMAS, { kind: "say", id, size: null });
  const seen = await roundOf(NOOR, id);
  expect(seen.votes.map(({ name, size }) => [name, size])).toEqual([
    ["Ines Dahl", undefined],
    ["Ivo Sandell", undefined],
    ["Tomas Kerr", undefined],
  ]);
  expect(seen.mine).toBeUndefined();
  expect(JSON.stringify(seen)).not.toMatch(/"size":\d/);
  expect((await roundOf(IVO, id)).mine).toBe(8);
  expect(await refusalOf(act(INES, { kind: "settle", id, size: 5 }))).toBe("invalid");
  expect(await sizeOf(itemId)).toBeNull();
  await act(INES, { kind: "show", id });
  expect((await roundOf(NOOR, id)).votes.map(({ size }) => size)).toEqual([3, 8, null]);
  expect(await refusalOf(act(IVO, { kind: "say", id, size: 5 }))).toBe("invalid");
  await act(INES, { kind: "again", id });
  expect(await roundOf(INES, id)).toMatchObject({ shown: false, again: 1, votes: [] });
  await act(IVO, { kind: "say", id, size: 5 });
  await act(IVO, { kind: "show", id });
  const after = await act(IVO, { kind: "settle", id, size: 5 });
  expect(after.rounds.some((round) => round.id === id)).toBe(false);
  expect(after.unsizedTotal).toBe(before - 1);
  expect(await sizeOf(itemId)).toBe(5);
  expect(await refusalOf(act(IVO, { kind: "settle", id, size: 8 }))).toBe("not found");
});

test("who only looks says nothing; a round about something hidden is not there for others", async () => {
  const itemId = await itemIn(INES, "Hidden winch");
  const id = randomUUID();
  await act(INES, { kind: "open", id, itemId });
  const [{ version: seenVersion }] = await database()
    .select()
    .from(item)
    .where(eq(item.id, itemId));
  await send(INES, itemId, { kind: "edit", seenVersion, changes: { restricted: true } });
  expect(await roundOf(IVO, id)).toBeUndefined();
  expect(await refusalOf(act(IVO, { kind: "say", id, size: 5 }))).toBe("not found");
  expect(await refusalOf(act(IVO, { kind: "open", id: randomUUID(), itemId }))).toBe("not found");
  expect(await refusalOf(act(ARTHUR, { kind: "show", id }))).toBe("not allowed");
  expect(await refusalOf(readAlike(IVO, "TIX", itemId))).toBe("not found");
  expect(await refusalOf(readSizing(OSKAR, "TIDE"))).toBe("not found");
  await act(INES, { kind: "leave", id });
  expect(await roundOf(INES, id)).toBeUndefined();
  expect(await sizeOf(itemId)).toBeNull();
});

test("finished and sized items that are much like one stand beside it, with how long they took", async () => {
  const done = await itemIn(NOOR, "Wind gauge on the pilot house", "Ready");
  const [{ version: seenVersion }] = await database().select().from(item).where(eq(item.id, done));
  await send(NOOR, done, { kind: "edit", seenVersion, changes: { estimate: 8 } });
  for (const state of TO_LIVE.slice(1))
    await move(NOOR, done, state, { ...ANSWERS, outcome: "delivered" });
  const asked = await itemIn(NOOR, "Second wind gauge on the pilot house");
  const { alike } = await readAlike(NOOR, "TIX", asked);
  expect(alike[0]).toMatchObject({ id: done, size: 8, days: 1 });
  expect(alike.map(({ score }) => score)).toEqual(
    alike.map(({ score }) => score).toSorted((a, b) => b - a),
  );
  expect(alike.some(({ id }) => id === asked)).toBe(false);
});

test("the sizes are a setting with a date: what was before is kept", async () => {
  const at = Date.now();
  const { points, letters } = FIRST_SCALES;
  await editPlanSettings(INES, "TIX", { sizeScale: letters }, at);
  expect((await readSizing(IVO, "TIX")).scale).toEqual(letters);
  const held = (when: number) => settingAt(database(), "tix", { setting: "sizes", at: when });
  expect(await held(at - 1)).toEqual(points);
  expect(await held(at)).toEqual(letters);
  await editPlanSettings(INES, "TIX", { sizeScale: points }, at + 1);
  expect(await refusalOf(editPlanSettings(IVO, "TIX", { sizeScale: letters }))).toBe("not allowed");
});
