import { randomUUID } from "node:crypto";
import { and, eq, isNull, ne, sql } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import { database } from "@/db/connection";
import { item, sprint } from "@/db/schema";
import { checkItems } from "@/server/item/check";
import { actOnSprint } from "@/server/plan/sprint-life";
import { readSprint, sprintToShow } from "@/server/plan/sprint-view";
import type { SprintAct } from "@/core/plan/request";
import type { Viewer } from "@/server/people/viewer";
import { itemIn, refusalOf, send } from "./setup/board";

import { ARTHUR, INES, NOOR, OSKAR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
jest.setTimeout(60_000);

const act = (by: Viewer, sprintId: string, body: SprintAct, now?: number) =>
  actOnSprint(by, { projectKey: "TIX", sprintId }, body, now);
const read = (id: string, viewer: Viewer = INES, now?: number) =>
  readSprint(viewer, "TIX", id, now);
const ending = (to: string | null, more: object = {}): SprintAct => ({
  kind: "end",
  reached: true,
  words: "Quiet weeks.",
  to,
  exceptions: [],
  ...more,
});
const put = async (id: string, changes: object) => {
  const [{ version: seenVersion }] = await database().select().from(item).where(eq(item.id, id));
  await send(INES, id, { kind: "edit", seenVersion, changes });
};
const openIn = (id: string) =>
  database()
    .select({ id: item.id })
    .from(item)
    .where(and(eq(item.sprintId, id), isNull(item.withdrawnAt), ne(item.stateKind, "finished")));

let running: string;
let next: string;
beforeAll(async () => {
  running = (await sprintToShow(INES, "TIX"))!;
  next = (await read(running)).next[0].id;
});

test("a running sprint counts from its first day: what came and went since, each with its items", async () => {
  const before = await read(running);
  expect(before.sprint.standing).toBe("running");
  expect(before.past.length).toBeGreaterThan(3);
  expect(before.past.every(({ velocity }) => velocity >= 0)).toBe(true);
  expect(before.past.some(({ velocity }) => velocity > 0)).toBe(true);
  const id = await itemIn(NOOR, "A rope too short");
  await put(id, { estimate: 5, sprintId: running });
  await put(id, { estimate: 8 });
  const day = (await read(running)).days.findLast(({ left }) => left !== null)!;
  expect(day.terms.added?.ids).toContain(id);
  const now = await read(running);
  const left = (of: typeof now) => of.days.findLast((one) => one.left !== null)!.left!;
  expect(left(now)).toEqual({
    points: left(before).points + 8,
    items: left(before).items + 1,
  });
  expect(now.begins).toEqual(before.begins);
  await put(id, { sprintId: null });
  const after = await read(running);
  expect(left(after)).toEqual(left(before));
  expect(after.outcome!.takenOut.ids).toContain(id);
});

test("what somebody does not see counts for them, and stands nowhere", async () => {
  const id = await itemIn(INES, "A hidden leak");
  await put(id, { estimate: 3, sprintId: running, restricted: true });
  const [lead, member] = [await read(running), await read(running, NOOR)];
  expect(member.days.map(({ left }) => left)).toEqual(lead.days.map(({ left }) => left));
  expect(member.outcome!.added.unseen).toBe(lead.outcome!.added.unseen + 1);
  expect(JSON.stringify(member)).not.toContain(id);
  expect(member.openUnseen).toBe(1);
  await put(id, { sprintId: null });
});

test("the next one is not started while one runs; it ends by saying where everything open goes", async () => {
  expect(await refusalOf(act(INES, next, { kind: "start" }))).toBe("invalid");
  expect(await refusalOf(act(INES, running, { kind: "start" }))).toBe("invalid");
  const [one, two] = [await itemIn(NOOR, "Goes on"), await itemIn(NOOR, "Goes back")];
  const hidden = await itemIn(INES, "Goes on unseen");
  for (const id of [one, two, hidden]) await put(id, { sprintId: running });
  await put(hidden, { restricted: true });
  expect(await refusalOf(act(ARTHUR, running, ending(next)))).toBe("not allowed");
  expect(
    await refusalOf(actOnSprint(OSKAR, { projectKey: "GATE", sprintId: running }, ending(null))),
  ).toBe("not found");
  expect(await refusalOf(act(NOOR, running, ending(running)))).toBe("invalid");
  const gone = [{ itemId: randomUUID(), to: null }];
  expect(await refusalOf(act(NOOR, running, ending(next, { exceptions: gone })))).toBe("invalid");
  expect(await openIn(running)).not.toEqual([]);
  const exceptions = [{ itemId: two, to: null }];
  const ended = await act(NOOR, running, ending(next, { exceptions }));
  expect(ended.sprint).toMatchObject({ standing: "ended", reached: true, endedBy: "Noor Bakri" });
  expect(await openIn(running)).toEqual([]);
  expect(ended.outcome!.carriedOver.ids).toEqual(expect.arrayContaining([one, two]));
  const sprintOf = async (id: string) =>
    (await database().select().from(item).where(eq(item.id, id)))[0].sprintId;
  expect(await Promise.all([one, two, hidden].map(sprintOf))).toEqual([next, null, next]);
  expect((await checkItems()).findings).toEqual([]);
});

test("nothing is planned into a sprint that has ended; it can be brought back, and the next one started", async () => {
  const id = await itemIn(NOOR, "Too late for it");
  const refused = await refusalOf(put(id, { sprintId: running }));
  expect(refused).toBe("invalid");
  expect(await refusalOf(act(INES, running, ending(next)))).toBe("invalid");
  expect((await act(INES, running, { kind: "bring back" })).sprint.standing).toBe("running");
  expect(await refusalOf(act(INES, running, { kind: "bring back" }))).toBe("invalid");
  await act(INES, running, ending(null));
  const begun = await act(INES, next, { kind: "start" });
  expect(begun.sprint.standing).toBe("running");
  const inIt = await openIn(next);
  expect(begun.outcome!.committed.ids.toSorted()).toEqual(inIt.map((one) => one.id).toSorted());
});

test("figures freeze at the end of its last day; one that nobody ended is over and shown so", async () => {
  const [row] = await database().select().from(sprint).where(eq(sprint.id, next));
  const after = Date.parse(row.endsOn) + 3 * DAY;
  const first = await read(next, INES, after);
  expect(first.sprint.standing).toBe("over");
  const id = await itemIn(NOOR, "In it", "Ready");
  await put(id, { estimate: 2, sprintId: next });
  const left = (await read(next)).days.findLast((one) => one.left !== null)!.left!;
  const ended = await read(next, INES, after);
  expect(ended.days.at(-1)!.left).toEqual(left);
  // What happens to an item behind its last day is not in its figures.
  await database().execute(
    sql`update stay set entered_at = ${new Date(after).toISOString()}::timestamptz, kind = 'finished'
      where item_id = ${id} and left_at is null`,
  );
  const later = await read(next, INES, after + 30 * DAY);
  expect(later.days).toEqual(ended.days);
  expect(later.outcome).toEqual(ended.outcome);
});
