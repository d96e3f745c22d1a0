import { and, eq, sql } from "drizzle-orm";
import {
  countFinished,
  deliveredInDays,
  FINISHED_CARDS_SENT,
  finishedGroups,
} from "@/core/board/finished";
import { tallyOfGroups } from "@/core/board/tally";
import { DAY, HOUR, MINUTE } from "@/core/calendar/instant";
import { database } from "@/db/connection";
import { item } from "@/db/schema";
import { readBoardChanges } from "@/server/board/changes";
import { readFinished } from "@/server/board/finished";
import { readBoard } from "@/server/board/read";
import { readFinishedGroups } from "@/server/item/list/finished";
import { amountOf } from "@/core/item/amount";
import { refusalOf, stateId } from "./setup/board";
import { ARTHUR, INES, NOOR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const byEntry = (a: { enteredStateAt: number }, b: { enteredStateAt: number }) =>
  b.enteredStateAt - a.enteredStateAt;

describe("a board on which much has finished lately", () => {
  let live: string;
  let allIds: string[];

  beforeEach(async () => {
    live = await stateId("Live");
    // Everything that ever went live did so today, a minute apart.
    const rows = await database()
      .select({ id: item.id })
      .from(item)
      .where(and(eq(item.stateId, live), sql`${item.withdrawnAt} is null`))
      .orderBy(item.number);
    allIds = rows.map((r) => r.id);
    for (const [i, id] of allIds.entries())
      await database()
        .update(item)
        .set({ enteredStateAt: Date.now() - i * MINUTE })
        .where(eq(item.id, id));
  });

  test("has the cards of the latest and counts all of it", async () => {
    const now = Date.now() + HOUR;
    const { cards, finished } = await readBoard(INES, "TIX", null, { now });
    const sent = cards.filter((c) => c.stateId === live).sort(byEntry);
    expect(allIds.length).toBeGreaterThan(FINISHED_CARDS_SENT);
    expect(sent.map((c) => c.id)).toEqual(allIds.slice(0, FINISHED_CARDS_SENT));
    expect(countFinished(finished, [live])).toBe(allIds.length);
  });

  test("all cards are to be had, and say the same of what kept to the expectation", async () => {
    const now = Date.now() + HOUR;
    const read = await readBoard(INES, "TIX", null, { now, sum: "estimate" });
    const all = (await readFinished(INES, "TIX", read.board.id, now)).cards;
    const ofLive = all.filter((c) => c.stateId === live);
    expect(ofLive.map((c) => c.id).sort()).toEqual([...allIds].sort());
    const ordered = (days: number[]) => [...days].sort((a, b) => a - b);
    expect(ordered(read.finished.flatMap((group) => group.tookDays))).toEqual(
      ordered(deliveredInDays(all, read.project.zone, now)),
    );
    const estimates = ofLive.reduce((sum, card) => sum + (card.estimate ?? 0), 0);
    expect(tallyOfGroups(read.finished, [live])).toEqual({
      items: ofLive.length,
      amount: estimates,
    });
    expect(estimates).toBeGreaterThan(0);
  });

  test("what became of an item is told with the counts, and without what stands elsewhere", async () => {
    const now = Date.now() + HOUR;
    const { board } = await readBoard(INES, "TIX", null, { now });
    const [gone, there] = allIds;
    await database()
      .update(item)
      .set({ withdrawnAt: now - MINUTE })
      .where(eq(item.id, gone));
    const asked = { board: board.id, ids: [gone, there], finished: true, sum: null };
    const changes = await readBoardChanges(INES, "TIX", asked, now);
    expect(changes.cards.map((c) => c.id)).toEqual([there]);
    expect(countFinished(changes.finished!, [live])).toBe(allIds.length - 1);
    const few = await readBoardChanges(INES, "TIX", { ...asked, finished: false }, now);
    expect(few.finished).toBeNull();
    expect(await refusalOf(readBoardChanges(ARTHUR, "TIDE", asked, now))).toBe("not found");
  });

  test("tells nobody of what they may not see", async () => {
    const now = Date.now() + HOUR;
    const hidden = allIds[30];
    await database()
      .update(item)
      .set({ restricted: true, assigneeId: "ivo", reviewerId: null, createdBy: "ivo" })
      .where(eq(item.id, hidden));
    const { board } = await readBoard(NOOR, "TIX", null, { now });
    const seen = await readFinished(NOOR, "TIX", board.id, now);
    expect(seen.cards.length).toBeGreaterThan(0);
    expect(allIds).toContain(hidden);
    expect(seen.cards.map((c) => c.id)).not.toContain(hidden);
    expect(await refusalOf(readFinished(ARTHUR, "TIDE", "any", now))).toBe("not found");
  });

  test("a board by other things than the process has nothing finished", async () => {
    const [byPerson] = (await readBoard(INES, "TIX")).boards.slice(1);
    expect((await readFinished(INES, "TIX", byPerson.id)).cards).toEqual([]);
  });
});

test("sprints that are over and releases that are out are told as past", async () => {
  const { sprints, releases } = await readBoard(INES, "TIX");
  const today = new Date().toISOString().slice(0, 10);
  // At midnight the project's day may be another one than that of London.
  const clearly = sprints.filter((s) => s.endsOn !== today && s.startsOn !== today);
  expect(clearly.map((s) => s.past)).toEqual(clearly.map((s) => s.endsOn < today));
  expect(new Set(sprints.map((s) => s.past)).size).toBe(2);
  expect(releases.map((r) => r.past)).toEqual(releases.map((r) => r.releasedAt !== null));
});

test.each(["Europe/London", "Pacific/Auckland", "America/New_York"])(
  "counted by the database as the core counts them, in the days of %s",
  async (zone) => {
    const reader = database();
    const now = Date.now();
    const where = eq(item.stateKind, "finished");
    const rows = await reader.select().from(item).where(where);
    // Some ran once, some again, some were never delivered, some finished anew after their delivery.
    expect(rows.some(({ clock }) => clock.length > 1)).toBe(true);
    expect(rows.some(({ deliveredAt }) => deliveredAt === null)).toBe(true);
    const [first, second] = rows.filter(({ clock }) => clock.length === 1);
    await reader
      .update(item)
      .set({ finishedAt: first.finishedAt! + DAY })
      .where(eq(item.id, first.id));
    await reader
      .update(item)
      .set({ clock: [{ from: second.clock[0].from, to: second.deliveredAt! + 3 * DAY }] })
      .where(eq(item.id, second.id));
    const changed = await reader.select().from(item).where(where);
    for (const sum of [null, "estimate", "remainingHours"] as const) {
      const counted = await readFinishedGroups(reader, where, { zone, now, sum, ownFields: [] });
      const expected = finishedGroups(changed, {
        zone,
        now,
        amountOf: (row) => amountOf(sum, row, []),
      });
      const ordered = (groups: typeof counted) =>
        groups
          .map((group) => ({ ...group, amount: Math.round(group.amount * 1000) / 1000 }))
          .toSorted((a, b) => (JSON.stringify(a) < JSON.stringify(b) ? -1 : 1));
      expect(ordered(counted)).toEqual(ordered(expected));
      expect(counted.reduce((all, { items }) => all + items, 0)).toBe(changed.length);
    }
  },
);
