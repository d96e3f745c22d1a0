import { randomUUID } from "node:crypto";
import { and, eq, inArray, isNull, sql } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import { dayOfRow } from "@/core/forecast/reach";
import { database } from "@/db/connection";
import { flowPassage, item, itemType } from "@/db/schema";
import { readReach } from "@/server/plan/reach";
import { readBacklog } from "@/server/plan/backlog";
import { itemIn, move, refusalOf, send } from "./setup/board";
import { ARTHUR, INES, NOOR, OSKAR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const of = (viewer = INES, weeks = 12) => readReach(viewer, "TIX", { weeks });
const put = async (id: string, values: Partial<typeof item.$inferInsert>) => {
  await database().update(item).set(values).where(eq(item.id, id));
};

test("the reach is drawn from whole weeks of what had waited in the backlog, with all in progress ahead", async () => {
  const before = await of();
  expect(before.past.weeks).toBe(12);
  const [{ n }] = await database()
    .select({ n: sql<number>`count(*)::int` })
    .from(item)
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .where(
      and(
        eq(item.projectId, "tix"),
        eq(itemType.level, 1),
        isNull(item.withdrawnAt),
        inArray(item.stateKind, ["waiting", "working"]),
      ),
    );
  expect(before.ahead).toBe(n);
  expect((await of(INES, 26)).past.finished).toBeGreaterThan(before.past.finished);
  // What is delivered today changes no week that is over; what was begun without waiting counts never.
  const id = await itemIn(NOOR, "Here and gone");
  await move(NOOR, id, "Ready");
  expect((await of()).ahead).toBe(n + 1);
  const made = before.past.finished;
  const delivered = async (waited: boolean) => {
    const at = Date.now() - 10 * DAY;
    const one = await itemIn(NOOR, "Done long ago");
    if (!waited)
      await database().execute(
        sql`update stay set left_at = entered_at where item_id = ${one} and kind = 'unstarted'`,
      );
    else
      await database().execute(
        sql`update stay set left_at = entered_at + interval '1 hour' where item_id = ${one} and kind = 'unstarted'`,
      );
    await put(one, { stateKind: "finished", firstStartedAt: at - DAY });
    await database().insert(flowPassage).values({
      itemId: one,
      projectId: "tix",
      seq: 90,
      at,
      kind: "delivered",
      elapsedMs: DAY,
      sinceLastMs: DAY,
      times: {},
    });
  };
  await delivered(true);
  expect((await of()).past.finished).toBe(made + 1);
  await delivered(false);
  expect((await of()).past.finished).toBe(made + 1);
});

test("it is the same for everybody, and says of what somebody does not see only how much it is", async () => {
  const first = await itemIn(INES, "A key left in the lock");
  await send(INES, first, { kind: "place", below: null });
  await put(first, { restricted: true });
  const [lead, member] = [await of(INES), await of(NOOR)];
  expect(lead.hiddenAfter).toEqual([]);
  expect(member.hiddenAfter).toEqual([0]);
  expect(member.reach).toEqual(lead.reach);
  expect(JSON.stringify(member)).not.toContain("A key left in the lock");
  expect((await of(ARTHUR)).reach).toEqual(lead.reach);
  expect(await refusalOf(readReach(OSKAR, "TIDE"))).toBe("not found");
});

test("what is planned is finished when the last of it is: by its place in the backlog, or by its age", async () => {
  const { releases, total } = await readBacklog(INES, "TIX");
  const box = releases.find(({ releasedAt }) => releasedAt === null)!.id;
  await database().update(item).set({ releaseId: null }).where(eq(item.releaseId, box));
  expect((await of()).until[box]).toBeUndefined();
  const first = await itemIn(INES, "The first of it");
  await send(INES, first, { kind: "place", below: null });
  const last = await itemIn(INES, "The last of it");
  await put(first, { releaseId: box });
  const early = (await of()).until[box];
  await put(last, { releaseId: box });
  const after = await of();
  const places = total + 3;
  expect(after.until[box].sure).toBeGreaterThan(early.sure!);
  const rows = [places - 3, places - 2, places - 1, places].map((n) =>
    dayOfRow(after.reach!, n, "sure"),
  );
  expect(rows).toContain(after.until[box].sure);
  await database().update(item).set({ releaseId: null }).where(eq(item.releaseId, box));
  const running = await itemIn(NOOR, "Under way", "Ready");
  await put(running, { releaseId: box });
  const { sure, even } = (await of()).until[box];
  expect(sure).toBeGreaterThan(0);
  expect(even).toBeLessThanOrEqual(sure!);
});

test("a large piece is as far as the stories under it, however deep, whoever sees them", async () => {
  const [voyage] = await database()
    .select({ id: itemType.id })
    .from(itemType)
    .where(and(eq(itemType.projectId, "tix"), eq(itemType.level, 2)));
  const piece = await itemIn(INES, "Tickets under water");
  await put(piece, { typeId: voyage.id });
  const stories = [];
  for (const title of ["a", "b", "c"]) stories.push(await itemIn(INES, title));
  for (const id of stories) await put(id, { parentId: piece, estimate: 3 });
  await put(stories[0], { stateKind: "finished" });
  await put(stories[1], { restricted: true, estimate: null });
  const task = await itemIn(INES, "a task under it");
  const [type] = await database()
    .select({ id: itemType.id })
    .from(itemType)
    .where(and(eq(itemType.projectId, "tix"), eq(itemType.level, 0)));
  await put(task, { parentId: stories[2], typeId: type.id, estimate: null });
  const found = (await of(NOOR)).pieces.find(({ id }) => id === piece);
  expect(found).toMatchObject({ items: 3, done: 1, points: 6, donePoints: 3, unsized: 1 });
  expect((await of(NOOR)).until[piece].sure).toBeGreaterThan(0);
  await put(piece, { restricted: true });
  expect((await of(NOOR)).pieces.some(({ id }) => id === piece)).toBe(false);
});

test("with too little past nothing is foretold, and it says how little there is", async () => {
  await database()
    .delete(flowPassage)
    .where(and(eq(flowPassage.projectId, "gate"), eq(flowPassage.kind, "delivered")));
  const { reach, past, until } = await readReach(OSKAR, "GATE");
  expect([reach, past.finished, until]).toEqual([null, 0, {}]);
  const none = randomUUID();
  expect(await refusalOf(readReach(OSKAR, none))).toBe("not found");
});
