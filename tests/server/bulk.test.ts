import { randomUUID } from "node:crypto";
import { and, eq, inArray, isNull, sql } from "drizzle-orm";
import fc from "fast-check";
import type { BulkAct } from "@/core/item/bulk/act";
import { bulkAct } from "@/core/item/bulk/act";
import { bulkBody, type BulkItems } from "@/core/item/bulk/contract";
import { CHUNK, type BulkJob } from "@/core/item/bulk/job";
import { database } from "@/db/connection";
import { bulkItem, bulkJob, item, itemEvent } from "@/db/schema";
import { doBulkChunk } from "@/server/item/bulk/chunk";
import { forecastBulk } from "@/server/item/bulk/forecast";
import { readBulkJobs } from "@/server/item/bulk/jobs";
import { changeBulk } from "@/server/item/bulk/start";
import { checkItems } from "@/server/item/check";
import type { Viewer } from "@/server/people/viewer";
import { countIn, itemIn, limitFirmly, move, refusalOf, send, stateId } from "./setup/board";
import { ARTHUR, INES, IVO, NOOR, TOMAS } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const act = (given: unknown): BulkAct => bulkAct.parse(given);
const assignTo = (assigneeId: string | null) => act({ kind: "set", changes: { assigneeId } });

async function start(viewer: Viewer, items: BulkItems, given: BulkAct, id = randomUUID()) {
  await changeBulk(viewer, "TIX", { kind: "start", id, items, act: given });
  return id;
}
async function undo(viewer: Viewer, of: string, id = randomUUID()) {
  await changeBulk(viewer, "TIX", { kind: "undo", id, of });
  return id;
}
async function finish(): Promise<void> {
  while ((await doBulkChunk()) > 0);
}
const jobOf = async (viewer: Viewer, id: string): Promise<BulkJob> =>
  (await readBulkJobs(viewer, "TIX")).jobs.find((job) => job.id === id)!;
const rowOf = async (id: string) =>
  (await database().select().from(item).where(eq(item.id, id)))[0];
const several = (n: number, ...path: string[]) =>
  Promise.all(Array.from({ length: n }, (_, i) => itemIn(NOOR, `Plank ${i}`, ...path)));

describe("several items at once", () => {
  test("are changed as each needs it; what is so already is left alone", async () => {
    const ids = await several(4);
    await send(NOOR, ids[0], {
      kind: "edit",
      seenVersion: 1,
      changes: { assigneeId: "ivo" },
      own: {},
    });
    const job = await start(NOOR, { ids }, assignTo("ivo"));
    expect(await jobOf(NOOR, job)).toMatchObject({ state: "waiting", total: 4, looked: 0 });
    await finish();
    expect(await jobOf(NOOR, job)).toMatchObject({
      state: "done",
      words: "set assignee",
      done: 3,
      same: 1,
      leftOut: [],
    });
    expect((await Promise.all(ids.map(rowOf))).map((row) => row.assigneeId)).toEqual(
      Array(4).fill("ivo"),
    );
    expect((await rowOf(ids[0])).version).toBe(2);
  });

  test("move as far as a firm limit lets them, in their order; the rest say why, and so did the forecast", async () => {
    const ids = await several(5, "Ready");
    const before = await countIn("Building");
    await limitFirmly("Building", before + 2);
    const to = await stateId("Building");
    const given = act({ kind: "move", to, answers: { assigneeId: "noor" } });
    const forecast = await forecastBulk(NOOR, "TIX", { items: { ids }, act: given });
    expect(forecast).toMatchObject({ total: 5, tried: 5, goes: 2, same: 0 });
    expect(forecast.leftOut).toEqual([
      expect.objectContaining({ count: 3, sentence: expect.stringMatching(/limit|full|at most/i) }),
    ]);
    // Nothing of it stayed.
    expect(await countIn("Building")).toBe(before);
    expect((await rowOf(ids[0])).version).toBe(2);
    const job = await start(NOOR, { ids }, given);
    await finish();
    expect(await jobOf(NOOR, job)).toMatchObject({ done: 2, leftOut: forecast.leftOut });
    expect((await Promise.all(ids.map(rowOf))).map((row) => row.stateId === to)).toEqual([
      true,
      true,
      false,
      false,
      false,
    ]);
    await undo(NOOR, job);
    await finish();
    expect(await countIn("Building")).toBe(before);
  });

  test("what a move needs is said, and asked once for all", async () => {
    const ids = await several(3, "Ready");
    const given = act({ kind: "move", to: await stateId("Building") });
    const { goes, leftOut, asks } = await forecastBulk(NOOR, "TIX", { items: { ids }, act: given });
    expect(goes).toBe(0);
    expect(leftOut.map(({ count }) => count)).toEqual([3]);
    expect(asks).toEqual([expect.objectContaining({ field: "assigneeId" })]);
  });

  test("keep their order at the top and at the bottom of the ranks", async () => {
    const ids = await several(4);
    const ranked = async () =>
      (
        await database()
          .select({ id: item.id })
          .from(item)
          .where(eq(item.stateId, await stateId("Backlog")))
          .orderBy(item.rank)
      ).map((row) => row.id);
    const order = [ids[2], ids[0], ids[3]];
    await start(NOOR, { ids: order }, act({ kind: "rank", end: "top" }));
    await finish();
    expect((await ranked()).slice(0, 3)).toEqual(order);
    await start(NOOR, { ids: order }, act({ kind: "rank", end: "bottom" }));
    await finish();
    expect((await ranked()).slice(-3)).toEqual(order);
  });

  test("labels are added and taken away, blockers set, parents given", async () => {
    const ids = await several(2);
    const do_ = async (given: unknown) => {
      await start(NOOR, { ids }, act(given));
      await finish();
      return rowOf(ids[1]);
    };
    expect((await do_({ kind: "label", add: ["pier", "night"] })).labels).toEqual([
      "pier",
      "night",
    ]);
    expect((await do_({ kind: "label", add: ["day"], remove: ["pier"] })).labels).toEqual([
      "night",
      "day",
    ]);
    await Promise.all(ids.map((id) => move(NOOR, id, "Ready")));
    expect((await do_({ kind: "block", cause: "Storm" })).openBlockers).toMatchObject([
      { cause: "Storm" },
    ]);
  });
});

test("all that a list shows are meant, in parts of fifty; it goes on whoever looks, and can be stopped in between", async () => {
  const bugs = {
    board: null,
    condition: { kind: "compare", fact: "typeId", op: "is", value: "bug" },
  } as const;
  const job = await start(INES, bugs, act({ kind: "label", add: ["swept"] }));
  expect(await doBulkChunk()).toBe(CHUNK);
  const half = await jobOf(INES, job);
  expect(half).toMatchObject({ state: "running", looked: CHUNK });
  expect(half.total).toBeGreaterThan(3 * CHUNK);
  await changeBulk(INES, "TIX", { kind: "cancel", id: job });
  await finish();
  expect(await jobOf(INES, job)).toMatchObject({ state: "cancelled", looked: CHUNK });
  const swept = async () =>
    (
      await database()
        .select({ n: sql<number>`count(*)::int` })
        .from(item)
        .where(sql`${item.labels} ? 'swept'`)
    )[0].n;
  expect(await swept()).toBe(half.done);
  await undo(INES, job);
  await finish();
  expect(await swept()).toBe(0);
});

test("undo leaves, by name, what others have changed since", async () => {
  const ids = await several(3);
  const job = await start(NOOR, { ids }, assignTo("ivo"));
  await finish();
  const [mine, theirs] = ids;
  await send(IVO, theirs, {
    kind: "edit",
    seenVersion: 2,
    changes: { assigneeId: "tomas" },
    own: {},
  });
  const back = await undo(NOOR, job);
  await finish();
  const { number } = await rowOf(theirs);
  expect(await jobOf(NOOR, back)).toMatchObject({
    undoes: true,
    done: 2,
    leftOut: [{ count: 1, keys: [`TIX-${number}`] }],
  });
  expect(await jobOf(NOOR, job)).toMatchObject({ undone: true });
  expect((await rowOf(mine)).assigneeId).toBeNull();
  expect((await rowOf(theirs)).assigneeId).toBe("tomas");
  expect(await refusalOf(undo(NOOR, back))).toBe("invalid");
});

test("started twice with one id it is done once; a part that is done again changes nothing", async () => {
  const ids = await several(2);
  const id = randomUUID();
  await Promise.all([
    start(NOOR, { ids }, assignTo("ivo"), id),
    start(NOOR, { ids }, assignTo("ivo"), id),
  ]);
  await Promise.all([finish(), finish()]);
  expect((await jobOf(NOOR, id)).total).toBe(2);
  await database().update(bulkItem).set({ outcome: null }).where(eq(bulkItem.jobId, id));
  const events = async () =>
    (
      await database()
        .select({ n: sql<number>`count(*)::int` })
        .from(itemEvent)
        .where(inArray(itemEvent.itemId, ids))
    )[0].n;
  const before = await events();
  await database().execute(sql`update bulk_job set state = 'running' where id = ${id}`);
  await finish();
  expect(await events()).toBe(before);
});

test("nobody does to several what they may not do to one, nor sees or stops what is another's", async () => {
  const ids = await several(2);
  const job = await start(ARTHUR, { ids }, assignTo("ivo"));
  await finish();
  expect(await jobOf(ARTHUR, job)).toMatchObject({
    done: 0,
    leftOut: [{ count: 2, sentence: expect.stringMatching(/role/) }],
  });
  expect(await jobOf(NOOR, job)).toBeUndefined();
  expect(await refusalOf(changeBulk(NOOR, "TIX", { kind: "cancel", id: job }))).toBe("not found");
  expect(await refusalOf(undo(NOOR, job))).toBe("not found");
  // What somebody may not see is as if it were not there, also by its id.
  const hidden = await itemIn(INES, "Behind the curtain");
  await send(INES, hidden, {
    kind: "edit",
    seenVersion: 1,
    changes: { restricted: true },
    own: {},
  });
  expect(await refusalOf(start(NOOR, { ids: [hidden] }, assignTo("ivo")))).toBe("invalid");
  const forecast = await forecastBulk(NOOR, "TIX", {
    items: { ids: [hidden, randomUUID(), ids[0]] },
    act: assignTo("ivo"),
  });
  expect(forecast).toMatchObject({ total: 1, goes: 1, leftOut: [] });
  // It is hidden between the start and its turn.
  const seen = await itemIn(INES, "Soon behind the curtain");
  const late = await start(NOOR, { ids: [seen] }, assignTo("tomas"));
  await send(INES, seen, { kind: "edit", seenVersion: 1, changes: { restricted: true }, own: {} });
  await finish();
  expect(await jobOf(NOOR, late)).toMatchObject({ done: 0, leftOut: [{ count: 1, keys: [] }] });
});

test.each<[string, unknown]>([
  ["nothing", { kind: "start", id: randomUUID(), items: { ids: [] }, act: assignTo(null) }],
  [
    "too many",
    {
      kind: "start",
      id: randomUUID(),
      items: { ids: Array(5_001).fill(randomUUID()) },
      act: assignTo(null),
    },
  ],
  [
    "a title for all",
    {
      kind: "start",
      id: randomUUID(),
      items: { ids: [randomUUID()] },
      act: { kind: "set", changes: { title: 5 } },
    },
  ],
  [
    "a blocker without a cause",
    {
      kind: "start",
      id: randomUUID(),
      items: { ids: [randomUUID()] },
      act: { kind: "block", cause: " " },
    },
  ],
  [
    "an act that there is not",
    { kind: "start", id: randomUUID(), items: { ids: [randomUUID()] }, act: { kind: "burn" } },
  ],
])("a job about %s is refused", (_, body) => {
  const read = bulkBody.safeParse(body);
  if (read.success) expect(read.data).toMatchObject({ act: { changes: {} } });
  else expect(read.success).toBe(false);
});

test("16 people at once with jobs, drops and undo exceed no firm limit and leave everything whole", async () => {
  const people = [INES, NOOR, IVO, TOMAS];
  const max = (await countIn("Building")) + 3;
  await limitFirmly("Building", max);
  const ids = await several(12, "Ready");
  const [ready, building] = [await stateId("Ready"), await stateId("Building")];
  const doing = fc.record({
    who: fc.constantFrom(...people),
    some: fc.subarray(ids, { minLength: 1 }),
    what: fc.constantFrom("to building", "back", "assign", "drop", "undo", "rank"),
  });
  const jobs: [Viewer, string][] = [];
  let seen = 0;
  await fc.assert(
    fc.asyncProperty(fc.array(doing, { minLength: 16, maxLength: 16 }), async (all) => {
      const one = async ({ who, some, what }: (typeof all)[number]): Promise<void> => {
        const acts: Record<string, () => Promise<unknown>> = {
          "to building": async () =>
            jobs.push([
              who,
              await start(
                who,
                { ids: some },
                act({ kind: "move", to: building, answers: { assigneeId: "noor" } }),
              ),
            ]),
          back: () =>
            start(
              who,
              { ids: some },
              act({ kind: "move", to: ready, answers: { reason: "Not now." } }),
            ),
          assign: () => start(who, { ids: some }, assignTo("ivo")),
          rank: () => start(who, { ids: some }, act({ kind: "rank", end: "top" })),
          drop: () => move(who, some[0], "Building"),
          undo: async () => {
            const last = jobs.findLast(([of]) => of === who);
            if (last) await undo(who, last[1]);
          },
        };
        // Many of them are refused, as they should be.
        await refusalOf(acts[what]());
        await doBulkChunk();
      };
      await Promise.all(all.map(one));
      await finish();
      const count = await countIn("Building");
      expect(count).toBeLessThanOrEqual(max);
      seen = Math.max(seen, count);
    }),
    { numRuns: 8 },
  );
  // The limit was met, or the test would say little.
  expect(seen).toBe(max);
  expect((await checkItems()).findings).toEqual([]);
  const open = await database()
    .select({ itemId: bulkItem.itemId })
    .from(bulkItem)
    .innerJoin(bulkJob, eq(bulkJob.id, bulkItem.jobId))
    .where(and(eq(bulkJob.state, "done"), isNull(bulkItem.outcome)));
  expect(open).toEqual([]);
});
