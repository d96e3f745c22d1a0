import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { addDays } from "@/core/calendar/month";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { database } from "@/db/connection";
import { item, membership, timeEntry } from "@/db/schema";
import { checkItems } from "@/server/item/check";
import { createItem } from "@/server/item/create";
import { readItem } from "@/server/item/read";
import { readPlanning } from "@/server/plan/planning";
import { readWeek } from "@/server/time/week";
import type { Viewer } from "@/server/people/viewer";
import { itemIn, refusalOf, send } from "./setup/board";
import { ARTHUR, INES, IVO, NOOR, OSKAR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const today = isoDate(dayNumber(Date.now(), "Europe/London"));

const record = (who: Viewer, itemId: string, minutes: number, more: object = {}) => {
  const entryId = randomUUID();
  const asked = { kind: "record time", entryId, minutes, on: today, note: "", ...more } as const;
  return send(who, itemId, asked).then(() => entryId);
};

const keyOf = async (id: string) => {
  const [row] = await database().select().from(item).where(eq(item.id, id));
  return `${row.projectId.toUpperCase()}-${row.number}`;
};

const leftOf = async (id: string) => {
  const [row] = await database().select().from(item).where(eq(item.id, id));
  return { left: row.remainingHours, spent: row.spentMinutes };
};

const edit = async (id: string, changes: object) => {
  const [{ version: seenVersion }] = await database().select().from(item).where(eq(item.id, id));
  await send(INES, id, { kind: "edit", seenVersion, changes });
};

test("time is recorded with what is left then, changed, removed and put back under its id", async () => {
  const id = await itemIn(NOOR, "Lamp at the ramp", "Ready", "Building");
  await edit(id, { firstEstimate: 8, remainingHours: 8 });
  const entryId = await record(NOOR, id, 90, { left: 6.5, note: "with the crew" });
  expect(await leftOf(id)).toEqual({ left: 6.5, spent: 90 });
  const { time, history } = await readItem(NOOR, await keyOf(id));
  expect(time.entries).toMatchObject([{ minutes: 90, note: "with the crew", who: "Noor Bakri" }]);
  expect(time.own).toEqual({ first: 8, spentMinutes: 90, left: 6.5, silent: 0 });
  expect(history.some(({ words }) => words.startsWith("recorded 1 h 30 min on"))).toBe(true);
  const again = { kind: "record time", entryId, on: today } as const;
  await send(NOOR, id, { ...again, minutes: 30, note: "", left: 7.5 });
  expect(await leftOf(id)).toEqual({ left: 7.5, spent: 30 });
  await send(NOOR, id, { kind: "remove time", entryId, left: 8 });
  expect(await leftOf(id)).toEqual({ left: 8, spent: 0 });
  expect((await readItem(NOOR, await keyOf(id))).time.entries).toEqual([]);
  await send(NOOR, id, { ...again, minutes: 45, note: "" });
  expect(await leftOf(id)).toEqual({ left: 8, spent: 45 });
  expect((await checkItems()).findings).toEqual([]);
});

test("nobody changes what somebody else recorded, and nothing is recorded ahead or on what is gone", async () => {
  const id = await itemIn(NOOR, "Rope at the quay", "Ready", "Building");
  const entryId = await record(NOOR, id, 60);
  const asked = { kind: "record time", entryId, minutes: 5, on: today, note: "" } as const;
  expect(await refusalOf(send(INES, id, asked))).toBe("invalid");
  expect(await refusalOf(send(INES, id, { kind: "remove time", entryId }))).toBe("invalid");
  expect(await refusalOf(record(ARTHUR, id, 60))).toBe("not allowed");
  expect(await refusalOf(record(NOOR, id, 60, { on: addDays(today, 2) }))).toBe("invalid");
  const gone = await itemIn(NOOR, "Buoy paint");
  await send(INES, gone, { kind: "withdraw", why: "Twice.", below: false });
  expect(await refusalOf(record(NOOR, gone, 60))).toBe("withdrawn");
  expect(await refusalOf(send(NOOR, id, { kind: "remove time", entryId: randomUUID() }))).toBe(
    "not found",
  );
  expect(await leftOf(id)).toEqual({ left: null, spent: 60 });
});

test("sums go up from what is under an item, without what somebody may not see", async () => {
  const parent = await itemIn(NOOR, "Night timetable", "Ready", "Building");
  const child = async (title: string, fields: object) => {
    const commandId = randomUUID();
    await createItem(INES, {
      commandId,
      projectKey: "TIX",
      parentId: parent,
      fields: { title, typeId: "task", ...fields },
    });
    const [row] = await database()
      .select()
      .from(item)
      .where(and(eq(item.title, title), eq(item.parentId, parent)));
    return row.id;
  };
  const shown = await child("Read the tide table", { firstEstimate: 3, remainingHours: 2 });
  await child("Secret berth", { firstEstimate: 5, remainingHours: 5, restricted: true });
  await child("Silent one", {});
  await edit(parent, { firstEstimate: 10, remainingHours: 1 });
  await record(NOOR, shown, 120);
  await record(NOOR, parent, 30);
  const seenBy = async (who: Viewer) => (await readItem(who, await keyOf(parent))).time.all;
  expect(await seenBy(INES)).toEqual({
    first: 18,
    spentMinutes: 150,
    left: 8,
    silent: 1,
    items: 3,
  });
  expect(await seenBy(IVO)).toEqual({ first: 13, spentMinutes: 150, left: 3, silent: 1, items: 2 });
});

test("a week shows what one recorded across projects, and others' weeks only to leads", async () => {
  const open = await itemIn(NOOR, "Gangway sensor", "Ready", "Building");
  const hidden = await itemIn(NOOR, "Harbour contract", "Ready", "Building");
  await record(NOOR, open, 200);
  await record(NOOR, hidden, 70);
  await edit(hidden, { restricted: true, assigneeId: "noor" });
  const mine = await readWeek(NOOR, "TIX", {});
  expect(mine.mine).toBe(true);
  expect(mine.rows.find(({ itemId }) => itemId === open)?.entries).toMatchObject([
    { minutes: 200 },
  ]);
  expect(mine.rows.some(({ itemId }) => itemId === hidden)).toBe(true);
  expect(mine.days).toHaveLength(7);
  const day = mine.days.find(({ day }) => day === today)!;
  expect(day.free === null ? [0, 480] : [0]).toContain(day.room);
  expect(await refusalOf(readWeek(NOOR, "TIX", { person: "ivo" }))).toBe("not allowed");
  expect(await refusalOf(readWeek(INES, "TIX", { person: "oskar" }))).toBe("not allowed");
  expect(await refusalOf(readWeek(OSKAR, "TIDE", {}))).toBe("not found");
  const seen = await readWeek(INES, "TIX", { person: "noor" });
  expect(seen.inHand).toEqual([]);
  const all = seen.rows.flatMap(({ entries }) => entries);
  const sum = all.reduce((minutes, one) => minutes + one.minutes, 0);
  expect(seen.people.find(({ id }) => id === "noor")?.minutes).toBe(
    sum + Object.values(seen.unseen).reduce((minutes, one) => minutes + one, 0),
  );
});

test("what is recorded on what whoever looks may not see counts, and is not named", async () => {
  const [tide] = await database()
    .select()
    .from(item)
    .where(and(eq(item.projectId, "tide"), eq(item.stateKind, "unstarted")))
    .limit(1);
  await record(IVO, tide.id, 33);
  await database()
    .delete(membership)
    .where(and(eq(membership.projectId, "tide"), eq(membership.personId, "ines")));
  const seen = await readWeek(INES, "TIX", { person: "ivo" });
  expect(seen.unseen[today]).toBeGreaterThanOrEqual(33);
  expect(JSON.stringify(seen)).not.toContain("TIDE-");
  expect(JSON.stringify(seen)).not.toContain(tide.id);
  const own = await readWeek(IVO, "TIX", {});
  expect(own.rows.some(({ itemId }) => itemId === tide.id)).toBe(true);
  expect(own.unseen).toEqual({});
});

test("the focus share in planning follows what people recorded in past sprints", async () => {
  const view = await readPlanning(INES, "TIX");
  expect(view.focus.by).toBe("team");
  expect(view.focus.share).toBeGreaterThan(0);
  expect(view.focus.share).toBeLessThan(1);
  await database().delete(timeEntry);
  const without = await readPlanning(INES, "TIX");
  expect(without.focus).toEqual({ share: 0.6, by: "assumed" });
  expect(without.people.every(({ focus }) => focus.by === "assumed")).toBe(true);
});
