import { and, eq, inArray, isNull, ne } from "drizzle-orm";
import { addDays } from "@/core/calendar/month";
import { database } from "@/db/connection";
import { dayOff, item, sprint } from "@/db/schema";
import { readPlanning } from "@/server/plan/planning";
import { readSprint } from "@/server/plan/sprint-view";
import { itemIn, refusalOf, send } from "./setup/board";
import { ARTHUR, INES, NOOR, OSKAR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const put = async (id: string, changes: object) => {
  const [{ version: seenVersion }] = await database().select().from(item).where(eq(item.id, id));
  await send(INES, id, { kind: "edit", seenVersion, changes });
};

test("beside the backlog stand the sprint that runs and those to come, with what is open in each", async () => {
  const view = await readPlanning(INES, "TIX");
  expect(view.sprints.map(({ standing }) => standing)).toEqual(["running", "coming", "coming"]);
  const [, next] = view.sprints;
  const open = await database()
    .select({ id: item.id })
    .from(item)
    .where(
      and(
        inArray(
          item.sprintId,
          view.sprints.map(({ id }) => id),
        ),
        isNull(item.withdrawnAt),
        ne(item.stateKind, "finished"),
      ),
    );
  expect(view.planned.map(({ id }) => id).toSorted()).toEqual(open.map(({ id }) => id).toSorted());
  expect(view.backlog.every(({ sprintId }) => sprintId === null)).toBe(true);
  const first = view.backlog[0];
  await put(first.id, { sprintId: next.id, estimate: 5 });
  const after = await readPlanning(INES, "TIX");
  expect(after.backlog.map(({ id }) => id)).not.toContain(first.id);
  expect(after.backlogTotal).toBe(view.backlogTotal - 1);
  expect(after.planned.find(({ id }) => id === first.id)?.sprintId).toBe(next.id);
  await put(first.id, { sprintId: null });
});

test("room is the velocity of the last sprints by the days at work: who is away takes theirs out", async () => {
  const view = await readPlanning(INES, "TIX");
  const [, next, last] = view.sprints;
  const days = (of: typeof next) => of.people.reduce((sum, one) => sum + one.days, 0);
  const mean = view.past.reduce((sum, { velocity }) => sum + velocity, 0) / view.past.length;
  expect(view.past).toHaveLength(6);
  // As many days as the sprints before had: then it is the mean of their velocity.
  expect(next.room! / days(next)).toBeCloseTo(last.room! / days(last), 6);
  expect(next.room!).toBeGreaterThan(mean / 2);
  expect(next.room!).toBeLessThan(mean * 1.5);
  const away = { from: next.startsOn, to: addDays(next.startsOn, 6) };
  await database()
    .insert(dayOff)
    .values({ personId: "noor", ...away });
  const after = (await readPlanning(INES, "TIX")).sprints[1];
  const noor = after.people.find(({ id }) => id === "noor")!;
  expect(noor.off).toBe(5);
  expect(days(after)).toBe(days(next) - 5);
  expect(after.room!).toBeCloseTo((next.room! * (days(next) - 5)) / days(next), 6);
  // The velocity here is the one of the report.
  const report = await readSprint(INES, "TIX", view.past.at(-1)!.id);
  expect(report.outcome!.velocity).toBe(view.past.at(-1)!.velocity);
});

test("what somebody does not see counts in the sums, and stands nowhere", async () => {
  const [, next] = (await readPlanning(INES, "TIX")).sprints;
  const id = await itemIn(INES, "Kept from sight");
  await put(id, { sprintId: next.id, estimate: 8, restricted: true });
  const mine = await readPlanning(NOOR, "TIX");
  expect(mine.sprints[1].unseen).toEqual({ items: 1, points: 8 });
  expect(JSON.stringify(mine)).not.toContain(id);
  expect((await readPlanning(INES, "TIX")).sprints[1].unseen).toEqual({ items: 0, points: 0 });
  await put(id, { sprintId: null });
});

test("who only looks may plan nothing; dependencies among what is shown come along", async () => {
  expect((await readPlanning(ARTHUR, "TIX")).rights.plan).toBe(false);
  expect(await refusalOf(readPlanning(OSKAR, "TIDE"))).toBe("not found");
  const [a, b] = (await readPlanning(INES, "TIX")).backlog;
  await send(INES, a.id, { kind: "link", linkKind: "waits for", otherKey: b.key });
  expect((await readPlanning(INES, "TIX")).waits).toContainEqual({ id: a.id, forId: b.id });
});

test("with no sprint that has ended nothing is said of room", async () => {
  await database().update(sprint).set({ endedAt: null, endWords: null });
  const view = await readPlanning(INES, "TIX");
  expect(view.past).toEqual([]);
  expect(view.sprints.every(({ room }) => room === null)).toBe(true);
  expect(view.perPoint).toBeNull();
});
