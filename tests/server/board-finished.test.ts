import { and, eq, sql } from "drizzle-orm";
import { deliveredInDays, FINISHED_CARDS_SENT } from "@/core/board/finished";
import { HOUR, MINUTE } from "@/core/calendar/instant";
import { database } from "@/db/connection";
import { item } from "@/db/schema";
import { readFinished } from "@/server/board/finished";
import { readBoard } from "@/server/board/read";
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

  test("has the cards of the latest and counts the rest", async () => {
    const now = Date.now() + HOUR;
    const { cards, finishedRest } = await readBoard(INES, "TIX", null, { now });
    const sent = cards.filter((c) => c.stateId === live).sort(byEntry);
    expect(allIds.length).toBeGreaterThan(FINISHED_CARDS_SENT);
    expect(sent.map((c) => c.id)).toEqual(allIds.slice(0, FINISHED_CARDS_SENT));
    const rest = finishedRest.filter((r) => r.stateId === live);
    const items = rest.reduce((sum, r) => sum + r.items, 0);
    expect(items).toBe(allIds.length - FINISHED_CARDS_SENT);
  });

  test("all cards are to be had, and say the same of what kept to the expectation", async () => {
    const now = Date.now() + HOUR;
    const { board, project, cards, finishedRest } = await readBoard(INES, "TIX", null, { now });
    const all = (await readFinished(INES, "TIX", board.id, now)).cards;
    expect(
      all
        .filter((c) => c.stateId === live)
        .map((c) => c.id)
        .sort(),
    ).toEqual([...allIds].sort());
    const sent = deliveredInDays(
      cards.filter((c) => c.stateKind === "finished"),
      project.zone,
      now,
    );
    const together = [...sent, ...finishedRest.flatMap((r) => r.tookDays)];
    const ofAll = deliveredInDays(all, project.zone, now);
    const ordered = (days: number[]) => [...days].sort((a, b) => a - b);
    expect(ordered(together)).toEqual(ordered(ofAll));
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
