import { and, eq, isNull, ne } from "drizzle-orm";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { DAY_PART_NAMES } from "@/core/today/day";
import { database } from "@/db/connection";
import { item, membership, putToRest } from "@/db/schema";
import { seeAgreed } from "@/server/item/agreed-seen";
import { readItem } from "@/server/item/read";
import { setDuties } from "@/server/people/duties";
import { readUntil } from "@/server/plan/reach";
import { loadReleases } from "@/server/plan/timeboxes";
import { readToday, readTodayCount } from "@/server/today/read";
import { putThingToRest } from "@/server/today/small-things";
import type { Viewer } from "@/server/people/viewer";
import { itemIn, move, refusalOf, send } from "./setup/board";
import { settle } from "./setup/events";
import { ARTHUR, INES, IVO, NOOR, OSKAR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const day = async (viewer: Viewer) => (await readToday(viewer, "TIX")).day;
const find = async (viewer: Viewer, id: string) => {
  const all = await day(viewer);
  for (const part of DAY_PART_NAMES) {
    const line = all[part].find(({ card }) => card.id === id);
    if (line) return { part, ...line };
  }
  return null;
};
const set = async (by: Viewer, id: string, changes: object) => {
  const [{ version: seenVersion }] = await database().select().from(item).where(eq(item.id, id));
  await send(by, id, { kind: "edit", seenVersion, changes });
};

test("an item goes through the days of those who have to do with it, with its next step", async () => {
  const id = await itemIn(INES, "The gangway");
  await set(INES, id, { assigneeId: "noor" });
  await settle();
  // Given to Noor: new to her until she has looked.
  expect(await find(NOOR, id)).toMatchObject({ part: "fresh", next: { kind: "seen" } });
  await move(NOOR, id, "Ready");
  await move(NOOR, id, "Building");
  const hands = await find(NOOR, id);
  expect(hands).toMatchObject({ part: "hands", next: { kind: "move", verb: "Hand to review" } });
  await send(INES, id, { kind: "comment", body: "@Noor Bakri how far?", asks: true });
  const asked = await find(NOOR, id);
  expect(asked).toMatchObject({ part: "waits", reason: "Ines Dahl asks: “how far?”" });
  expect((await find(INES, id))?.part).toBe("awaited");
  if (asked?.next.kind !== "answer") throw new Error("no question");
  const answersId = asked.next.commentId;
  await send(NOOR, id, { kind: "comment", body: "Half.", answersId });
  expect((await find(NOOR, id))?.part).toBe("hands");
  await move(NOOR, id, "Waiting for review");
  await set(NOOR, id, { reviewerId: "ivo" });
  expect(await find(IVO, id)).toMatchObject({ part: "waits" });
  expect(await find(NOOR, id)).toMatchObject({ part: "awaited", next: { kind: "look" } });
  await set(INES, id, { dueOn: "2020-01-02" });
  const missed = await find(NOOR, id);
  expect(missed).toMatchObject({ part: "missed" });
  expect(missed?.alarm).toMatch(/^was due Thursday 2 January 2020/);
});

test("whoever works on an item or reviews it sees what others changed of what was agreed, once", async () => {
  const id = await itemIn(NOOR, "The ladder");
  await set(INES, id, { estimate: 3 });
  await move(NOOR, id, "Ready");
  await move(NOOR, id, "Building");
  await set(NOOR, id, { reviewerId: "ivo" });
  const [{ number }] = await database().select().from(item).where(eq(item.id, id));
  const unseen = async () =>
    (await readItem(INES, `TIX-${number}`)).agreed?.unseenBy.map((one) => one.id);
  expect(await unseen()).toBeUndefined();
  await set(INES, id, { estimate: 8 });
  expect(await unseen()).toEqual(["noor", "ivo"]);
  expect(await find(NOOR, id)).toMatchObject({
    part: "waits",
    reason: "Ines Dahl changed the estimate since work began",
    alarm: "to be seen",
  });
  expect(await find(IVO, id)).toMatchObject({ part: "waits", alarm: "to be seen" });
  const { agreed } = await readItem(NOOR, `TIX-${number}`);
  await seeAgreed(NOOR, `TIX-${number}`, agreed!.seq);
  expect(await unseen()).toEqual(["ivo"]);
  expect((await find(NOOR, id))?.part).toBe("hands");
  // What is changed after it has to be seen anew; one's own change not.
  await set(NOOR, id, { description: "With a rail" });
  expect(await unseen()).toEqual(["ivo"]);
  await set(INES, id, { description: "Without a rail" });
  expect(await unseen()).toEqual(["noor", "ivo"]);
  expect(await refusalOf(seeAgreed(OSKAR, "TIDE-1", 1))).toBe("not found");
});

test("the count at the stop is that of the day, over all projects", async () => {
  for (const viewer of [INES, IVO, NOOR, OSKAR]) {
    const { missed, waits } = await day(viewer);
    expect((await readTodayCount(viewer, "TIX")).waiting).toBe(missed.length + waits.length);
  }
  const ivos = await day(IVO);
  const lines = DAY_PART_NAMES.flatMap((part) => ivos[part]);
  const projects = new Set(lines.map(({ projectKey }) => projectKey));
  expect([...projects].toSorted()).toEqual(["TIDE", "TIX"]);
});

test("what somebody may not see stands in nobody's day, also behind figures", async () => {
  const id = await itemIn(INES, "The safe");
  await set(INES, id, { restricted: true });
  await send(INES, id, { kind: "comment", body: "@Noor Bakri the code?", asks: true });
  await settle();
  expect(await find(NOOR, id)).toBeNull();
  const { team } = await readToday(NOOR, "TIX");
  expect(team.flatMap(({ ids }) => ids)).not.toContain(id);
  expect(await refusalOf(readToday(OSKAR, "TIDE"))).toBe("not found");
});

test("whoever brings out releases sees the next one, with all that is open in it; others do not", async () => {
  const [next] = (await loadReleases(database(), "tix")).filter(({ past }) => !past);
  const id = await itemIn(INES, "The anchor");
  await set(INES, id, { releaseId: next.id, restricted: true });
  const open = await database()
    .select({ id: item.id })
    .from(item)
    .where(
      and(eq(item.releaseId, next.id), isNull(item.withdrawnAt), ne(item.stateKind, "finished")),
    );
  await setDuties(INES, "TIX", {
    holders: [{ duty: "releases", holderKind: "person", holderId: "noor" }],
  });
  const [line] = (await readToday(NOOR, "TIX")).team;
  expect(line).toMatchObject({ count: open.length, alarm: false });
  expect(line.words).toMatch(new RegExp(`^open in ${next.name}, which goes out `));
  // The figure counts what she may not see; it opens what she may.
  expect(line.ids).not.toContain(id);
  expect(line.ids).toHaveLength(open.length - 1);
  expect((await readToday(IVO, "TIX")).team.some(({ words }) => words.includes(next.name))).toBe(
    false,
  );
});

test("whoever only looks on has a day without work, and pulls nothing", async () => {
  const view = await readToday(ARTHUR, "TIX");
  expect(view.pull).toEqual([]);
  expect(view.noPull).toMatch(/look on/);
  expect(view.team).toEqual([]);
});

test("what is offered to be pulled can be pulled, and stands in one's hands then", async () => {
  const { pull } = await readToday(NOOR, "TIX");
  const [first] = pull;
  await send(NOOR, first.card.id, {
    kind: "move",
    from: first.card.stateId,
    to: first.move.to,
    answers: { assigneeId: "noor" },
  });
  const [row] = await database().select().from(item).where(eq(item.id, first.card.id));
  expect(row.stateId).toBe(first.move.to);
  expect((await readToday(NOOR, "TIX")).pull.map(({ card }) => card.id)).not.toContain(row.id);
});

test("a small thing is put right, or rests until its item changes", async () => {
  const id = await itemIn(INES, "Loose plank", "Ready", "Building");
  await set(INES, id, { assigneeId: null, sprintId: null });
  const about = async () =>
    (await readToday(INES, "TIX")).small.filter(({ card }) => card.id === id).map((t) => t.thing);
  // Others of the demo come first; they rest.
  for (const { card, thing } of (await readToday(INES, "TIX")).small)
    if (card.id !== id) await putThingToRest(INES, { itemId: card.id, thing, why: "Not now." });
  for (let i = 0; i < 20 && (await about()).length === 0; i++)
    for (const { card, thing } of (await readToday(INES, "TIX")).small)
      await putThingToRest(INES, { itemId: card.id, thing, why: "Not now." });
  expect(await about()).toEqual(["no owner"]);
  await putThingToRest(INES, { itemId: id, thing: "no owner", why: "The yard has it." });
  expect(await about()).toEqual([]);
  const [rest] = await database()
    .select()
    .from(putToRest)
    .where(and(eq(putToRest.itemId, id), eq(putToRest.thing, "no owner")));
  expect(rest).toMatchObject({ personId: "ines", why: "The yard has it." });
  await send(INES, id, { kind: "comment", body: "Still loose." });
  expect(await about()).toEqual(["no owner"]);
  await set(INES, id, { assigneeId: "noor" });
  expect(await about()).toEqual([]);
});

test("a project that somebody leaves leaves their day with them", async () => {
  const id = await itemIn(INES, "The old pier", "Ready", "Building");
  await set(INES, id, { assigneeId: "ivo" });
  expect((await find(IVO, id))?.part).toBe("hands");
  await database()
    .update(membership)
    .set({ role: "observer" })
    .where(and(eq(membership.personId, "ivo"), eq(membership.projectId, "tix")));
  expect(await find(IVO, id)).toBeNull();
});

test("how likely an item is finished by its day agrees with the day by which it is 85 % sure", async () => {
  const id = await itemIn(INES, "The lamp of the ramp");
  await set(INES, id, { assigneeId: "noor" });
  await move(NOOR, id, "Ready");
  await move(NOOR, id, "Building");
  const { sure } = (await readUntil(NOOR, "TIX")).until[id];
  const today = dayNumber(Date.now(), "Europe/London");
  const sureBy = async (day: number) => {
    await set(INES, id, { dueOn: isoDate(day) });
    const reason = (await find(NOOR, id))!.reason;
    return Number(/, (\d+) % sure by then$/.exec(reason)?.[1]);
  };
  expect(sure).toBeGreaterThan(2);
  expect(await sureBy(today + sure!)).toBeGreaterThanOrEqual(85);
  expect(await sureBy(today + sure! - 1)).toBeLessThan(86);
  expect(await sureBy(today + 1)).toBeLessThan(await sureBy(today + sure!));
});
