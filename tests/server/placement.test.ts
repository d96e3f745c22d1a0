import { randomUUID } from "node:crypto";
import { and, eq, isNull } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import { unplannedShare, velocity } from "@/core/flow/unplanned";
import type { Found } from "@/core/intake/acceptance";
import { newAcceptance } from "@/core/intake/acceptance";
import { database } from "@/db/connection";
import { item, itemLink, release, report } from "@/db/schema";
import { finishedWork, readUnplanned } from "@/server/flow/unplanned";
import { triageReport, undoVerdict } from "@/server/intake/triage-report";
import { checkItems } from "@/server/item/check";
import { createItem } from "@/server/item/create";
import { readItem } from "@/server/item/read";
import { ANSWERS, itemIn, move, refusalOf, send, TO_LIVE } from "./setup/board";
import { NOOR, TOMAS } from "./setup/people";
import { sent } from "./setup/reports";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const snapshot = async (id: string) =>
  (await database().select().from(item).where(eq(item.id, id)))[0];
const keyOf = async (id: string) => `TIX-${(await snapshot(id)).number}`;

/**
 * Sends a report and accepts it with an answer to where it was found; gives its item and a way to
 * undo.
 */
async function accept(title: string, found: Found | null, change: object = {}) {
  const row = await sent({ title: [title] });
  const acceptance = {
    ...newAcceptance(title, "bug"),
    severity: "major" as const,
    teamId: "ticketing",
    found,
    ...change,
  };
  const commandId = randomUUID();
  await triageReport(TOMAS, row.id, {
    commandId,
    seenVersion: row.version,
    verdict: { kind: "accept", acceptance },
  });
  const [after] = await database().select().from(report).where(eq(report.id, row.id));
  return {
    itemId: after.itemId!,
    undo: () => undoVerdict(TOMAS, row.id, commandId),
    reportId: row.id,
  };
}

test("found in work that is still being built: a task under that item with its hours and the tester's own, and it is no interruption", async () => {
  const parent = await itemIn(NOOR, "Night boat tickets", "Ready", "Building");
  await createItem(NOOR, {
    commandId: randomUUID(),
    projectKey: "TIX",
    parentId: parent,
    fields: { title: "Already planned", typeId: "task", remainingHours: 5 },
  });
  expect((await readItem(NOOR, await keyOf(parent))).time.all?.left).toBe(5);
  const { itemId, undo } = await accept("Seat number is cut off", {
    where: "in work",
    itemId: parent,
    hours: 3,
    retestHours: 0.5,
  });
  const task = await snapshot(itemId);
  expect(task).toMatchObject({
    parentId: parent,
    typeId: "task",
    origin: "planned",
    estimate: null,
    remainingHours: 3,
    classOfService: "standard",
  });
  const view = await readItem(NOOR, await keyOf(parent));
  // 5 that were planned, 3 to mend it, and half an hour to test it again.
  expect(view.time.all?.left).toBe(8.5);
  expect(view.children.map((c) => c.title)).toEqual([
    "Already planned",
    "Seat number is cut off",
    "Test again: Seat number is cut off",
  ]);
  await undo();
  expect((await readItem(NOOR, await keyOf(parent))).time.all?.left).toBe(5);
});

test("found in finished work: a bug of its own, linked to where it came from, not sized, and counted against its release", async () => {
  const origin = await itemIn(NOOR, "Shipped already", ...TO_LIVE.slice(0, -1));
  await move(NOOR, origin, "Live", { ...ANSWERS, outcome: "delivered" });
  await send(NOOR, origin, {
    kind: "edit",
    seenVersion: (await snapshot(origin)).version,
    changes: { releaseId: "tix-release-5", estimate: 5 },
  });
  const period = { from: Date.now() - DAY, to: Date.now() + DAY };
  const project = { id: "tix", zone: "Europe/London" };
  const escaped = async () =>
    (
      await readUnplanned(database(), project, {
        hidden: new Set(),
        period,
        now: Date.now(),
        filter: {},
      })
    ).escaped.find((e) => e.release === "Crossing 5")?.ids ?? [];
  expect(await escaped()).toEqual([]);
  const { itemId, undo } = await accept(
    "Return trip a day off",
    { where: "in finished work", itemId: origin },
    { priority: "high" },
  );
  expect(await snapshot(itemId)).toMatchObject({
    typeId: "bug",
    parentId: null,
    estimate: null,
    stateKind: "unstarted",
    priority: "high",
  });
  expect(
    await database()
      .select({ to: itemLink.toItemId, kind: itemLink.kind })
      .from(itemLink)
      .where(eq(itemLink.fromItemId, itemId)),
  ).toEqual([{ to: origin, kind: "came from" }]);
  // While its release is not out, or goes out the day after, it was found on the way.
  const out = (at: number | null) =>
    database().update(release).set({ releasedAt: at }).where(eq(release.id, "tix-release-5"));
  await out(null);
  expect(await escaped()).toEqual([]);
  await out(Date.now() + DAY);
  expect(await escaped()).toEqual([]);
  // On the same day it was out.
  await out(Date.now());
  expect(await escaped()).toEqual([itemId]);
  // What counts is the day of the report, not of its verdict.
  const reportedAt = (at: number) =>
    database().update(report).set({ receivedAt: at }).where(eq(report.itemId, itemId));
  await reportedAt(Date.now() - 3 * DAY);
  expect(await escaped()).toEqual([]);
  await reportedAt(Date.now());
  await undo();
  expect(await escaped()).toEqual([]);
  // What came out of work that was not finished yet has not got past anybody.
  const open = await itemIn(NOOR, "Still being built", "Ready", "Building");
  await send(NOOR, open, {
    kind: "edit",
    seenVersion: (await snapshot(open)).version,
    changes: { releaseId: "tix-release-5" },
  });
  await send(NOOR, await itemIn(NOOR, "Seen on the way"), {
    kind: "link",
    linkKind: "came from",
    otherKey: await keyOf(open),
  });
  expect(await escaped()).toEqual([]);
});

test("must be fixed now: on the board at once, expedite, unplanned, estimated 0; velocity stays, the unplanned share does not", async () => {
  expect(await refusalOf(accept("Half filled in", { where: "fix now" }, { severity: null }))).toBe(
    "invalid",
  );
  const from = Date.now();
  const story = await itemIn(NOOR, "Sized three", "Ready", "Building");
  await send(NOOR, story, {
    kind: "edit",
    seenVersion: (await snapshot(story)).version,
    changes: { estimate: 3 },
  });
  const { itemId } = await accept(
    "Gates refuse every ticket",
    { where: "fix now" },
    { assigneeId: "ivo" },
  );
  expect(await snapshot(itemId)).toMatchObject({
    classOfService: "expedite",
    origin: "unplanned",
    estimate: 0,
    stateKind: "waiting",
  });
  for (const id of [story, itemId]) {
    for (const to of id === story ? [] : ["Building"]) await move(NOOR, id, to);
    for (const to of [
      "Waiting for review",
      "In review",
      "Waiting for test",
      "In test",
      "Ready to deploy",
      "Live",
    ])
      await move(id === story ? NOOR : TOMAS, id, to, {
        reviewerId: "ruth",
        howToTest: "Look.",
        outcome: "delivered",
      });
  }
  const work = await finishedWork({
    reader: database(),
    projectId: "tix",
    from,
    to: Date.now() + DAY,
  });
  expect(velocity(work, from, Date.now() + DAY)).toBe(3);
  expect(unplannedShare(work)).toEqual({ unplanned: [itemId], finished: 2, share: 0.5 });
});

test("undoing takes the item off the board again, and not once somebody has gone on with it", async () => {
  const { itemId, undo } = await accept("Scanner sees nothing", { where: "fix now" });
  await undo();
  expect((await snapshot(itemId)).withdrawnAt).not.toBeNull();
  const started = await accept("Scanner sees ghosts", { where: "fix now" }, { assigneeId: "ivo" });
  await move(TOMAS, started.itemId, "Building");
  expect(await refusalOf(started.undo())).toBe("in use");
});

test("an item that is finished, gone or of another project is nothing to find a bug in; no row is left behind", async () => {
  const [other] = await database()
    .select({ id: item.id })
    .from(item)
    .where(and(eq(item.projectId, "gate"), isNull(item.withdrawnAt)))
    .limit(1);
  const [finished] = await database()
    .select({ id: item.id })
    .from(item)
    .where(and(eq(item.projectId, "tix"), eq(item.stateKind, "finished")))
    .limit(1);
  const before = (await database().select({ id: item.id }).from(item)).length;
  for (const itemId of [other.id, finished.id, randomUUID()])
    expect(
      await refusalOf(accept("Somewhere", { where: "in work", itemId, hours: 1, retestHours: 1 })),
    ).toBe("invalid");
  expect(
    await refusalOf(accept("Somewhere", { where: "in finished work", itemId: other.id })),
  ).toBe("invalid");
  expect((await database().select({ id: item.id }).from(item)).length).toBe(before);
});

test("the history of all of it agrees with what is stored", async () =>
  expect((await checkItems()).findings).toEqual([]));
