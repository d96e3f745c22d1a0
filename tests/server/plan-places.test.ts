import ICAL from "ical.js";
import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { addDays } from "@/core/calendar/month";
import { database } from "@/db/connection";
import { dayOff, item, membership, person, project } from "@/db/schema";
import { readCalendar } from "@/server/plan/calendar";
import { endCalendarFeed, makeCalendarFeed, readCalendarFeed } from "@/server/plan/calendar-feed";
import { readRoom } from "@/server/plan/people-room";
import { readPiece, readPieceTree } from "@/server/plan/pieces";
import { readTakers } from "@/server/plan/takers";
import { readWaiting } from "@/server/plan/waiting";
import { createItem } from "@/server/item/create";
import { itemIn, refusalOf, send } from "./setup/board";
import { ARTHUR, INES, IVO, NOOR, OSKAR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const put = async (id: string, changes: object) => {
  const [{ version: seenVersion }] = await database().select().from(item).where(eq(item.id, id));
  await send(INES, id, { kind: "edit", seenVersion, changes });
};
const keyOf = async (id: string) => {
  const [row] = await database().select().from(item).where(eq(item.id, id));
  return `TIX-${row.number}`;
};

describe("the calendar of a project", () => {
  test("a month holds what touches its weeks, and nothing that one does not see", async () => {
    const id = await itemIn(NOOR, "Buoys checked");
    const { today } = await readCalendar(INES, "TIX", undefined);
    await put(id, { dueOn: today, restricted: true });
    const mine = await readCalendar(INES, "TIX", today);
    expect(mine.items.find((one) => one.id === id)).toMatchObject({ on: today, fixed: false });
    expect(mine.sprints.some(({ standing }) => standing === "running")).toBe(true);
    const other = await readCalendar(IVO, "TIX", today);
    expect(JSON.stringify(other)).not.toContain(id);
    const far = await readCalendar(INES, "TIX", "2031-05-09");
    expect(far).toMatchObject({ month: "2031-05-01", sprints: [], releases: [], items: [] });
    expect(await refusalOf(readCalendar(OSKAR, "TIDE", undefined))).toBe("not found");
  });

  test("who is away stands on the days that are shown", async () => {
    const { today } = await readCalendar(INES, "TIX", undefined);
    await database()
      .insert(dayOff)
      .values({ personId: "noor", from: addDays(today, -400), to: addDays(today, 400) });
    const { away } = await readCalendar(INES, "TIX", today);
    const noor = away.find(({ id }) => id === "noor")!;
    expect(noor.from <= today && today <= noor.to).toBe(true);
    expect(noor.from >= `${addDays(`${today.slice(0, 7)}-01`, -7)}`).toBe(true);
    await database().delete(dayOff).where(eq(dayOff.personId, "noor"));
  });
});

describe("the private address of a calendar", () => {
  const tokenOf = ({ address }: { address: string }) => address.split("/").at(-1)!;
  const summaries = async (token: string) =>
    new ICAL.Component(ICAL.parse(await readCalendarFeed(token)))
      .getAllSubcomponents("vevent")
      .map((one) => String(one.getFirstPropertyValue("summary")));

  test("says what its owner may see when it is read: sprints, releases, and what is due", async () => {
    const id = await itemIn(NOOR, "Lanterns; trimmed, lit");
    const { today } = await readCalendar(INES, "TIX", undefined);
    await put(id, { dueOn: addDays(today, 3) });
    const token = tokenOf(await makeCalendarFeed(IVO, "TIX", "project"));
    const title = `${await keyOf(id)} Lanterns; trimmed, lit`;
    const told = await summaries(token);
    expect(told).toContain(title);
    expect(told.some((one) => /^TIX Sprint \d+$/.test(one))).toBe(true);
    expect(told.some((one) => /^TIX Crossing \d+ goes out$/.test(one))).toBe(true);
    await put(id, { restricted: true });
    expect(await summaries(token)).not.toContain(title);
    const made = await readCalendar(IVO, "TIX", undefined);
    expect(made.feeds.project!.readAt).toBeGreaterThan(0);
    expect(made.feeds.mine).toBeNull();
    expect(JSON.stringify(made.feeds)).not.toContain(token);
  });

  test("one's own holds what one has, of all one's projects", async () => {
    const id = await itemIn(NOOR, "Own and due");
    const { today } = await readCalendar(INES, "TIX", undefined);
    await put(id, { dueOn: addDays(today, 3), assigneeId: "ivo" });
    const token = tokenOf(await makeCalendarFeed(IVO, "TIX", "mine"));
    const told = await summaries(token);
    expect(told).toContain(`${await keyOf(id)} Own and due`);
    const owned = await database().select().from(item).where(eq(item.assigneeId, "ivo"));
    expect(told.filter((one) => /^(done: )?[A-Z]+-\d+ /.test(one)).length).toBeLessThanOrEqual(
      owned.length,
    );
    expect(told.some((one) => one.startsWith("TIDE Sprint"))).toBe(true);
  });

  test("another one, its end, the end of an account or of sight lead nowhere", async () => {
    const first = tokenOf(await makeCalendarFeed(NOOR, "TIX", "project"));
    const second = tokenOf(await makeCalendarFeed(NOOR, "TIX", "project"));
    expect(await refusalOf(readCalendarFeed(first))).toBe("not found");
    await endCalendarFeed(NOOR, "TIX", "mine");
    expect(await readCalendarFeed(second)).toContain("BEGIN:VCALENDAR");
    await endCalendarFeed(NOOR, "TIX", "project");
    expect(await refusalOf(readCalendarFeed(second))).toBe("not found");
    expect(await refusalOf(makeCalendarFeed(OSKAR, "TIDE", "project"))).toBe("not found");
    const third = tokenOf(await makeCalendarFeed(IVO, "TIDE", "project"));
    const out = and(eq(membership.projectId, "tide"), eq(membership.personId, "ivo"))!;
    const [was] = await database().select().from(membership).where(out);
    await database().delete(membership).where(out);
    expect(await refusalOf(readCalendarFeed(third))).toBe("not found");
    await database().insert(membership).values(was);
    const ended = eq(person.id, "ivo");
    await database().update(person).set({ endedAt: Date.now() }).where(ended);
    expect(await refusalOf(readCalendarFeed(third))).toBe("not found");
    await database().update(person).set({ endedAt: null }).where(ended);
    expect(await refusalOf(readCalendarFeed("none"))).toBe("not found");
  });
});

describe("what waits for what", () => {
  test("is drawn with items of other projects; of what one does not see only that it is there", async () => {
    const [one, two] = [await itemIn(NOOR, "Waits"), await itemIn(NOOR, "Is waited for")];
    const { card } = await createItem(IVO, {
      commandId: randomUUID(),
      projectKey: "TIDE",
      parentId: null,
      fields: { title: "A secret tide", typeId: "story" },
    });
    const link = (otherKey: string) => ({ kind: "link", linkKind: "waits for", otherKey }) as const;
    await send(IVO, one, link(await keyOf(two)));
    await send(IVO, one, link(card.key));
    const view = await readWaiting(IVO, "TIX");
    const of = (id: string) => view.items.find((item) => item.id === id)!;
    expect(view.waits).toEqual(
      expect.arrayContaining([
        { id: one, forId: two },
        { id: one, forId: card.id },
      ]),
    );
    expect(of(card.id)).toMatchObject({ own: false, seen: { key: card.key } });
    const stranger = await readWaiting(OSKAR, "TIX");
    expect(stranger.items.find(({ id }) => id === card.id)).toMatchObject({
      seen: null,
      sprintId: null,
      teamId: null,
    });
    expect(JSON.stringify(stranger)).not.toContain("secret");
    // Once it was delivered, nothing waits for it any more.
    await database().update(item).set({ stateKind: "finished" }).where(eq(item.id, two));
    const after = await readWaiting(IVO, "TIX");
    expect(after.waits).not.toContainEqual({ id: one, forId: two });
  });
});

describe("people's room", () => {
  test("what somebody has counts for all who look, and is named only to who sees it", async () => {
    const id = await itemIn(NOOR, "Ropes spliced", "Ready", "Building");
    await put(id, { assigneeId: "ivo", remainingHours: 40 });
    const load = (of: Awaited<ReturnType<typeof readRoom>>) =>
      of.people.find((one) => one.id === "ivo")!.weeks.reduce((sum, week) => sum + week.load, 0);
    const before = await readRoom(INES, "TIX");
    expect(before.people.find((one) => one.id === "ivo")!.items.map((one) => one.id)).toContain(id);
    await put(id, { restricted: true });
    const [lead, other] = [await readRoom(INES, "TIX"), await readRoom(OSKAR, "TIX")];
    expect(load(other)).toBeCloseTo(load(lead), 6);
    expect(JSON.stringify(other)).not.toContain(id);
    await put(id, { remainingHours: 0, restricted: false });
    expect(load(await readRoom(INES, "TIX"))).toBeCloseTo(load(lead) - 40, 0);
    expect((await readRoom(ARTHUR, "TIX")).rights.edit).toBe(false);
  });

  test("who is away in all of the next two weeks could take nothing; the others say why they could", async () => {
    const id = await itemIn(NOOR, "Sails mended");
    await put(id, { assigneeId: "ivo", remainingHours: 1 });
    const { today } = await readRoom(INES, "TIX");
    await database()
      .insert(dayOff)
      .values({ personId: "noor", from: addDays(today, -10), to: addDays(today, 30) });
    const { takers } = await readTakers(INES, "TIX", id);
    const names = takers.map((one) => one.id);
    expect(names).not.toContain("noor");
    expect(names).not.toContain("ivo");
    expect(takers.length).toBeGreaterThan(2);
    for (const { similar, why, free, fits } of takers) {
      expect(why).toContain(similar.length > 0 ? `finished ${similar.length}` : "none");
      expect(fits).toBe(free >= 1);
    }
    const order = takers.map(({ fits }) => fits);
    expect(order).toEqual(order.toSorted((a, b) => Number(b) - Number(a)));
    await database().delete(dayOff).where(eq(dayOff.personId, "noor"));
    expect(await refusalOf(readTakers(INES, "TIX", randomUUID()))).toBe("not found");
  });
});

describe("large pieces", () => {
  const voyage = async () =>
    (await readPieceTree(INES, "TIX")).pieces.find(({ level }) => level === 2)!;

  test("progress is the same as what is under it; a story that comes under it counts from then on", async () => {
    const piece = await voyage();
    const id = await itemIn(NOOR, "Under way soon", "Ready", "Building");
    await put(id, { estimate: 8 });
    await send(INES, id, { kind: "put under", parentKey: piece.key });
    const after = (await readPieceTree(INES, "TIX")).pieces.find((one) => one.id === piece.id)!;
    expect(after.progress).toEqual({
      ...piece.progress,
      items: piece.progress.items + 1,
      doing: piece.progress.doing + 1,
      points: piece.progress.points + 8,
    });
    const detail = await readPiece(INES, "TIX", piece.id);
    expect(detail.stories.map((one) => one.id)).toContain(id);
    const last = detail.days.at(-1)!;
    expect(last.scope).toEqual({ items: after.progress.items, points: after.progress.points });
    expect(last.done).toEqual({ items: after.progress.done, points: after.progress.donePoints });
    const yesterday = detail.days.at(-2);
    if (yesterday) expect(yesterday.scope.items).toBeLessThan(last.scope.items);
  });

  test("what one does not see counts, and is not named", async () => {
    const piece = await voyage();
    const { stories } = await readPiece(INES, "TIX", piece.id);
    const hidden = stories.find(({ stateKind }) => stateKind !== "finished")!;
    await put(hidden.id, { restricted: true, assigneeId: null, reviewerId: null });
    const [lead, other] = [
      await readPiece(INES, "TIX", piece.id),
      await readPiece(OSKAR, "TIX", piece.id),
    ];
    expect(other.days).toEqual(lead.days);
    expect(other.unseen).toBe(lead.unseen + 1);
    expect(JSON.stringify(other)).not.toContain(hidden.id);
    expect(await refusalOf(readPiece(INES, "TIX", hidden.id))).toBe("not found");
    expect(await refusalOf(readPiece(INES, "TIX", "no-id"))).toBe("not found");
  });

  test("stories under none of them are counted and can be looked at", async () => {
    const { loose } = await readPieceTree(INES, "TIX");
    const id = await itemIn(NOOR, "Alone");
    const after = (await readPieceTree(INES, "TIX")).loose;
    expect(after.items).toBe(loose.items + 1);
    expect(after.ids).toContain(id);
  });
});

test("a project that does without sprints has none in its calendar and nothing to wait in", async () => {
  const tix = eq(project.id, "tix");
  await database().update(project).set({ usesSprints: false }).where(tix);
  expect((await readCalendar(INES, "TIX", undefined)).sprints).toEqual([]);
  expect((await readWaiting(INES, "TIX")).sprints).toEqual([]);
  await database().update(project).set({ usesSprints: true }).where(tix);
  expect((await readWaiting(INES, "TIX")).sprints.length).toBeGreaterThan(1);
});
