import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { HOUR } from "@/core/calendar/instant";
import { OFFICE_HOURS } from "@/core/calendar/working-time";
import { EVERY_ITEM } from "@/core/condition/condition";
import { FIRST_MODEL, orderBy } from "@/core/intake/scoring";
import type { ServiceTarget } from "@/core/intake/service-target";
import { database } from "@/db/connection";
import { datedSetting, item, itemEvent, report } from "@/db/schema";
import { readDesk } from "@/server/intake/desk";
import { readBrokenPromise } from "@/server/intake/broken-promise";
import { triageReport } from "@/server/intake/triage-report";
import { sayMore } from "@/server/intake/private-page";
import { readPromises } from "@/server/intake/promises";
import { readLearn } from "@/server/flow/read";
import { editRules, loadRules } from "@/server/intake/rules";
import { editWorth, readWorth } from "@/server/intake/worth";
import { checkItems } from "@/server/item/check";
import { compileCondition } from "@/server/condition/compile";
import { readIds } from "@/server/item/list/read";
import { readItem } from "@/server/item/read";
import { castVote } from "@/server/item/votes";
import { itemIn, move, refusalOf, send } from "./setup/board";
import { ARTHUR, INES, NOOR, TOMAS } from "./setup/people";
import { accepting, sent, verdictOn } from "./setup/reports";
import { givenTestDatabase } from "./setup/test-database";
import { rulesBody, type BreaksQuery } from "@/core/intake/request";

givenTestDatabase();
const snapshot = async (id: string) =>
  (await database().select().from(item).where(eq(item.id, id)))[0];
const version = async () => (await loadRules(database(), "tix")).version;
const target = (change: Partial<ServiceTarget>): ServiceTarget => ({
  id: "t",
  name: "All of it",
  condition: EVERY_ITEM,
  answerHours: 2,
  resolveHours: 10,
  working: false,
  ...change,
});
/** Promised about everything that ever came in, as if it had been so from the beginning. */
async function promise(...targets: ServiceTarget[]) {
  await database().delete(datedSetting).where(eq(datedSetting.setting, "promises"));
  await editRules(INES, "TIX", { seenVersion: await version(), targets: [] }, 0);
  await editRules(INES, "TIX", { seenVersion: await version(), targets }, 1);
}
/** Promised from an instant on. */
const promiseFrom = async (now: number, ...targets: ServiceTarget[]) =>
  editRules(INES, "TIX", { seenVersion: await version(), targets }, now);
const daysBefore = async (reportId: string, days: number) => {
  const [{ at }] = await database()
    .select({ at: report.receivedAt })
    .from(report)
    .where(eq(report.id, reportId));
  await database()
    .update(report)
    .set({ receivedAt: at - days * 24 * HOUR })
    .where(eq(report.id, reportId));
};

async function accepted(title: string) {
  const row = await sent({ title: [title] });
  const { acceptance } = accepting({ title, severity: "major" });
  await triageReport(TOMAS, row.id, {
    commandId: randomUUID(),
    seenVersion: row.version,
    verdict: { kind: "accept", acceptance },
  });
  const [after] = await database().select().from(report).where(eq(report.id, row.id));
  return { itemId: after.itemId!, token: row.token, receivedAt: row.receivedAt };
}

const standing = async (itemId: string, now: number) =>
  (await readPromises(INES, "TIX", now)).open.find((r) => r.itemId === itemId);

describe("promises", () => {
  test("run from when the report came; an answer is the verdict, and asking the requester stops the clock", async () => {
    await promise(target({}));
    const { itemId, token, receivedAt } = await accepted("Fare shown twice");
    expect(await standing(itemId, receivedAt + HOUR)).toMatchObject({
      target: "All of it",
      answer: { standing: "kept" },
      resolve: { standing: "on time" },
    });
    expect(await standing(itemId, receivedAt + 8.5 * HOUR)).toMatchObject({
      resolve: { standing: "at risk" },
    });
    expect(await standing(itemId, receivedAt + 11 * HOUR)).toMatchObject({
      resolve: { standing: "missed" },
    });
    await send(NOOR, itemId, { kind: "ask", body: "On which quay?" });
    expect(await standing(itemId, receivedAt + 200 * HOUR)).toMatchObject({
      resolve: { standing: "paused" },
    });
    await sayMore(token, "Quay 2.");
    expect((await standing(itemId, receivedAt + HOUR))?.resolve?.standing).toBe("on time");
    const { promise: onItem } = await readItem(NOOR, `TIX-${(await snapshot(itemId)).number}`);
    expect(onItem).toMatchObject({ target: "All of it", resolve: { standing: "on time" } });
  });

  test("the first that fits counts; what fits none has none", async () => {
    await promise(
      target({
        id: "a",
        name: "Bugs",
        condition: { kind: "compare", fact: "typeId", op: "is", value: "bug" },
      }),
      target({
        id: "b",
        name: "Noor's",
        condition: { kind: "compare", fact: "assigneeId", op: "is", value: "noor" },
        answerHours: null,
      }),
    );
    const { open } = await readPromises(INES, "TIX");
    expect(open.filter((r) => r.typeId === "bug").every((r) => r.target === "Bugs")).toBe(true);
    expect(
      open
        .filter((r) => r.typeId !== "bug")
        .every((r) => r.target === "Noor's" && r.assigneeId === "noor" && r.answer === null),
    ).toBe(true);
  });

  test("the desk tells how long an answer may still take, by a calendar of its own", async () => {
    await promise(target({ working: true, answerHours: 4, resolveHours: 40 }));
    await editRules(INES, "TIX", {
      seenVersion: await version(),
      calendar: { ...OFFICE_HOURS, holidays: [] },
    });
    const row = await sent({ title: ["Seat plan empty"] });
    const { queue } = await readDesk(TOMAS, "TIX", row.receivedAt + 1);
    expect(queue.find((r) => r.id === row.id)?.promise).toMatchObject({
      target: "All of it",
      what: "answer",
      state: { standing: expect.stringMatching(/on time/) },
    });
    // A question is a first answer; while it waits the promise stands still, and goes on with what
    // was left.
    await verdictOn(row.id, { kind: "ask", question: "On which quay?" });
    const promiseOf = async () => {
      const desk = await readDesk(TOMAS, "TIX");
      return [...desk.queue, ...desk.aside].find((r) => r.id === row.id)?.promise;
    };
    expect(await promiseOf()).toMatchObject({ what: "done", state: { standing: "paused" } });
    await sayMore(row.token, "Quay 2.");
    expect(await promiseOf()).toMatchObject({ what: "done", state: { standing: "on time" } });
  });

  test("the kept share is counted among what is decided, and tells the items behind it", async () => {
    await promise(target({ answerHours: null, resolveHours: 1_000 }));
    const id = await itemIn(NOOR, "Quickly done", "Ready", "Building");
    await move(NOOR, id, "Closed", { outcome: "obsolete", reason: "Not wanted." });
    const { kept } = await readPromises(INES, "TIX");
    expect(kept[0].resolved.decided).toBeGreaterThan(50);
    expect(kept[0].resolved.share).toBeGreaterThan(0.5);
    expect(kept[0].both).toEqual(kept[0].resolved);
    expect(kept[0].both.missedIds).not.toContain(id);
    // The same figure on Learn for the same weeks, and its filters act on it.
    const now = Date.now();
    const learn = async (query: object) =>
      (await readLearn(INES, "TIX", { period: "12 weeks", ...query }, now)).promises;
    const whole = await learn({});
    const told = (await readPromises(INES, "TIX", now)).kept.map((k) => k.both);
    expect([whole.decided, whole.missed]).toEqual([
      told.reduce((sum, k) => sum + k.decided, 0),
      told.reduce((sum, k) => sum + k.missed, 0),
    ]);
    const [bugs, stories, requests] = [
      await learn({ type: "bug" }),
      await learn({ type: "story" }),
      await learn({ type: "request" }),
    ];
    expect(bugs.decided).toBeLessThan(whole.decided);
    expect(bugs.decided + stories.decided + requests.decided).toBe(whole.decided);
    const { unplanned, report } = await readLearn(INES, "TIX", { period: "12 weeks", type: "bug" });
    expect(unplanned.share.finished).toBeLessThanOrEqual(report.finished.length);
  });

  test("a new or changed promise judges nothing that came in before it; one that ends is still owed", async () => {
    const now = Date.now();
    await promise(target({ id: "slow", name: "Slow", answerHours: null, resolveHours: 500 }));
    const early = await accepted("Came in early");
    const [{ number }] = await database()
      .select({ number: item.number })
      .from(item)
      .where(eq(item.id, early.itemId));
    const soon = now + 2_000;
    const before = (await readPromises(INES, "TIX", soon)).kept.map((k) => k.both);
    // Nothing that was decided before becomes a miss because more is promised today.
    const strict = target({ id: "slow", name: "Fast", answerHours: null, resolveHours: 0.5 });
    await promiseFrom(now + 1_000, strict);
    const view = await readPromises(INES, "TIX", soon);
    expect(view.kept.map((k) => [k.both.decided, k.both.missed])).toEqual(
      before.map((k) => [k.decided, k.missed]),
    );
    expect(await standing(early.itemId, now + 2 * HOUR)).toMatchObject({
      target: "Slow",
      resolve: { standing: "on time" },
    });
    const late = await accepted("Came in late");
    await database()
      .update(report)
      .set({ receivedAt: now + 2_000 })
      .where(eq(report.itemId, late.itemId));
    expect(await standing(late.itemId, now + 2 * HOUR)).toMatchObject({
      target: "Fast",
      resolve: { standing: "missed" },
    });
    expect((await readItem(NOOR, `TIX-${number}`)).promise?.target).toBe("Slow");
    await promiseFrom(now + 3 * HOUR);
    const ended = await readPromises(INES, "TIX", now + 4 * HOUR);
    expect(ended.rules.targets).toEqual([]);
    expect(ended.kept).toMatchObject([{ targetId: "slow", ended: true }]);
    expect(ended.open.some((r) => r.itemId === early.itemId)).toBe(true);
  });

  test("a merge or a parking that breaks a promise says so before", async () => {
    await promise(target({ answerHours: null, resolveHours: 30 }));
    const fresh = await accepted("Wheelhouse lamp flickers");
    const old = await sent({ title: ["The lamp of the wheelhouse flickers"] });
    const breaks = (id: string, query: BreaksQuery) =>
      readBrokenPromise(TOMAS, id, query).then((r) => r.broken);
    const merge = { verdict: "merge", item: fresh.itemId } as const;
    expect(await breaks(old.id, merge)).toBeNull();
    await daysBefore(old.id, 3);
    expect(await breaks(old.id, merge)).toMatchObject({ target: "All of it", certain: true });
    const waits = await sent({ title: ["Waits a while"] });
    const [tomorrow, nextWeek] = [0, 7].map((days) =>
      new Date(Date.now() + days * 24 * HOUR).toISOString().slice(0, 10),
    );
    expect(await breaks(waits.id, { verdict: "park", until: tomorrow })).toBeNull();
    expect(await breaks(waits.id, { verdict: "park", until: nextWeek })).toMatchObject({
      certain: true,
      dueAt: waits.receivedAt + 30 * HOUR,
    });
    expect(await breaks(waits.id, { verdict: "park", item: fresh.itemId })).toMatchObject({
      certain: false,
    });
    // Late already: nothing more is broken by it.
    expect(await breaks(old.id, { verdict: "park", until: nextWeek })).toBeNull();
    expect(await refusalOf(readBrokenPromise(ARTHUR, waits.id, merge))).toBe("not allowed");
  });

  test("a promise is the same for everybody: it asks nobody who they are", async () => {
    const mine = target({
      condition: {
        kind: "any",
        of: [
          {
            kind: "not",
            of: { kind: "compare", fact: "assigneeId", op: "is", value: { who: "me" } },
          },
        ],
      },
    });
    expect(
      rulesBody.safeParse({ seenVersion: 0, targets: [mine] }).error?.issues[0].message,
    ).toMatch(/same for everybody/);
  });

  test("leads change them, one after the other; members read", async () => {
    const seen = await version();
    await editRules(INES, "TIX", { seenVersion: seen, targets: [] });
    expect(await refusalOf(editRules(INES, "TIX", { seenVersion: seen, targets: [] }))).toBe(
      "conflict",
    );
    for (const viewer of [NOOR, ARTHUR])
      expect(
        await refusalOf(editRules(viewer, "TIX", { seenVersion: seen + 1, targets: [] })),
      ).toBe("not allowed");
    expect((await readPromises(ARTHUR, "TIX")).mayEdit).toBe(false);
  });
});

describe("worth", () => {
  const keyOf = async (id: string) => `TIX-${(await snapshot(id)).number}`;
  const row = async (id: string) =>
    (await readWorth(INES, "TIX")).rows.find((r) => r.itemId === id)!;

  test("judged, voted for, and with the cost of delay from the project's own fields", async () => {
    await editRules(INES, "TIX", {
      seenVersion: await version(),
      scoring: { ...FIRST_MODEL, valueFieldId: "tix-value", weeksFieldId: "tix-weeks" },
    });
    const id = await itemIn(NOOR, "Tickets for dogs");
    await send(NOOR, id, {
      kind: "edit",
      seenVersion: (await snapshot(id)).version,
      changes: { estimate: 4 },
      own: { "tix-value": 5_000, "tix-weeks": 8 },
    });
    expect((await row(id)).parts).toMatchObject({
      score: null,
      costOfDelay: 40_000,
      delayByDuration: 1_250,
    });
    await editWorth(NOOR, "TIX", {
      kind: "score",
      itemId: id,
      scores: { reach: 5, pain: 5, goal: 5 },
    });
    for (const viewer of [NOOR, INES, INES]) await castVote(viewer, await keyOf(id), "for");
    expect(await row(id)).toMatchObject({ votes: { mine: "for", for: 2 }, request: { votes: 2 } });
    // 90 for three criteria at their best, and 2 of 20 votes on a weight of 10.
    expect((await row(id)).parts.score).toBeCloseTo(91);
    await castVote(INES, await keyOf(id), null);
    expect((await row(id)).request.votes).toBe(1);
    expect(
      await refusalOf(editWorth(NOOR, "TIX", { kind: "score", itemId: id, scores: { reach: 6 } })),
    ).toBe("invalid");
    expect(
      await refusalOf(editWorth(NOOR, "TIX", { kind: "score", itemId: id, scores: { votes: 1 } })),
    ).toBe("invalid");
    expect(await refusalOf(castVote(ARTHUR, await keyOf(id), "for"))).toBe("not allowed");
  });

  test("votes against count where the project says so, and everywhere the same", async () => {
    const id = await itemIn(NOOR, "Bells on the gates");
    const key = await keyOf(id);
    expect(await refusalOf(castVote(NOOR, key, "against"))).toBe("invalid");
    await editRules(INES, "TIX", {
      seenVersion: await version(),
      scoring: { ...FIRST_MODEL, votesAgainst: true },
    });
    for (const viewer of [NOOR, TOMAS]) await castVote(viewer, key, "against");
    await castVote(INES, key, "for");
    expect((await row(id)).votes).toEqual({ for: 1, against: 2, reports: 0, mine: "for" });
    expect((await row(id)).request.votes).toBe(-1);
    expect((await readItem(NOOR, key)).votes.mine).toBe("against");
    const counted = await readIds(
      {
        reader: database(),
        where: and(
          eq(item.projectId, "tix"),
          compileCondition(
            { kind: "compare", fact: "votes", op: "less than", value: 0 },
            { personId: null, teamIds: [], now: Date.now(), zone: "UTC" },
          ),
        ),
      },
      10,
    );
    expect(counted).toEqual([id]);
    // Whoever thinks again has one vote.
    await castVote(TOMAS, key, "for");
    expect((await row(id)).votes).toMatchObject({ for: 2, against: 1 });
  });

  test("the backlog is put into the order that was shown, in every item's history, and back again; a changed backlog is not overwritten", async () => {
    const before = await readWorth(INES, "TIX");
    const seen = before.rows.map((r) => r.itemId);
    const wanted = orderBy(before.rows, "score").map((r) => r.itemId);
    expect(wanted).not.toEqual(seen);
    const commandId = randomUUID();
    await editWorth(INES, "TIX", { kind: "reorder", commandId, seen, wanted });
    await editWorth(INES, "TIX", { kind: "reorder", commandId, seen, wanted });
    const order = async () => (await readWorth(INES, "TIX")).rows.map((r) => r.itemId);
    expect(await order()).toEqual(wanted);
    expect(
      (
        await database()
          .select()
          .from(itemEvent)
          .where(and(eq(itemEvent.itemId, wanted[0]), eq(itemEvent.kind, "ranked")))
      ).length,
    ).toBeGreaterThan(0);
    expect(
      await refusalOf(
        editWorth(INES, "TIX", { kind: "reorder", commandId: randomUUID(), seen, wanted }),
      ),
    ).toBe("conflict");
    expect(
      await refusalOf(
        editWorth(INES, "TIX", {
          kind: "reorder",
          commandId: randomUUID(),
          seen: wanted,
          wanted: wanted.slice(1),
        }),
      ),
    ).toBe("invalid");
    await editWorth(INES, "TIX", {
      kind: "reorder",
      commandId: randomUUID(),
      seen: wanted,
      wanted: seen,
    });
    expect(await order()).toEqual(seen);
  });
});

test("the history of all of it agrees with what is stored", async () =>
  expect((await checkItems()).findings).toEqual([]));
