import { randomUUID } from "node:crypto";
import { and, eq, inArray, isNull } from "drizzle-orm";
import type { EndRunBody, FailureCourse, StepResult } from "@/core/ship/testing/step-result";
import { database, transact } from "@/db/connection";
import { item, itemFile, testCaseVersion } from "@/db/schema";
import { readFileSync } from "node:fs";
import { readItem } from "@/server/item/read";
import { endRun } from "@/server/ship/testing/end-run";
import { knownTests } from "@/server/ship/testing/failing-tests";
import { readItemTests } from "@/server/ship/testing/item-tests";
import { addTestPicture, removeTestPicture, testPictureFor } from "@/server/ship/testing/pictures";
import { readCase, readCases } from "@/server/ship/testing/read-cases";
import { readRun } from "@/server/ship/testing/read-run";
import { giveUpRun, recordStep, startRun } from "@/server/ship/testing/runs";
import { linkCase, putAwayCase, saveCase, saveSuite } from "@/server/ship/testing/cases";
import { readSuspects } from "@/server/ship/testing/suspects";
import { editTimebox } from "@/server/plan/timeboxes";
import { readReleasePage } from "@/server/ship/release/read-release";
import { readTestQueue } from "@/server/ship/testing/test-queue";
import type { Viewer } from "@/server/people/viewer";
import { commit, pushed } from "./setup/code-host";
import { delivery, post } from "./setup/events";
import { ANSWERS, itemIn, move, refusalOf, stateId } from "./setup/board";
import { ARTHUR, INES, IVO, NOOR, OSKAR, TOMAS } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";
import { placeConsumersAtTheEnd } from "./setup/unfollowed";

givenTestDatabase();
beforeAll(placeConsumersAtTheEnd);

const IN_TEST = [
  ...["Ready", "Building", "Waiting for review", "In review", "Waiting for test", "In test"],
];

async function itemAt(...path: string[]) {
  const id = await itemIn(NOOR, "Seats by the window", ...path);
  const [{ number }] = await database().select().from(item).where(eq(item.id, id));
  return { id, key: `TIX-${number}` };
}

const stepsOf = (...words: string[]) =>
  words.map((word) => ({ id: randomUUID(), action: `Do ${word}`, expected: `See ${word}` }));

async function caseFor(itemKey: string | null, ...words: string[]) {
  const id = randomUUID();
  const steps = stepsOf(...words);
  const body = {
    ...{ id, seenVersion: null, part: null, suiteId: null, itemKey },
    ...{ title: `Try ${words.join(" and ")} ${id.slice(0, 6)}`, before: "A ticket is there." },
    steps,
  };
  const { number } = await saveCase(NOOR, "TIX", body);
  return { id, number: String(number), steps, body };
}

const started = async (
  viewer: Viewer,
  itemKey: string | null,
  caseIds: string[],
  more: object = {},
) => {
  const run = await startRun(viewer, "TIX", {
    ...{ id: randomUUID(), itemKey, suiteId: null, caseIds, environment: "test", build: null },
    ...{ takeTo: null, testerId: null, ...more },
  });
  return { key: "TIX", number: String(run.number) };
};

const say = (
  viewer: Viewer,
  run: { key: string; number: string },
  { caseId, stepId }: { caseId: string; stepId: string },
  result: StepResult | null,
  more: { note?: string; course?: FailureCourse; givenTo?: string } = {},
) =>
  recordStep(viewer, run, {
    ...{ caseId, stepId, result, note: "", course: null, givenTo: null, ...more },
  });

const end = (
  run: { key: string; number: string },
  viewer: Viewer,
  more: Partial<EndRunBody> = {},
) =>
  endRun(viewer, run, {
    ...{ commandId: randomUUID(), mendingHours: 2, retestHours: 0.5, moves: {} },
    ...more,
  });

/** Puts items into a release of their own. @returns its id */
async function releaseWith(...ids: string[]): Promise<string> {
  const id = randomUUID();
  const release = { id, name: `Crossing ${id.slice(0, 4)}`, dueOn: null, released: false, why: "" };
  await editTimebox(INES, "TIX", { kind: "release", release });
  await database().update(item).set({ releaseId: id }).where(inArray(item.id, ids));
  return id;
}

test("a release says by what its items are tested, on which build, by whom, the worst first; and what no case tests", async () => {
  const [passed, failed, bare] = [
    await itemAt(...IN_TEST),
    await itemAt(...IN_TEST),
    await itemAt(),
  ];
  for (const { one, result } of [
    { one: passed, result: "passed" as const },
    { one: failed, result: "failed" as const },
  ]) {
    const own = await caseFor(one.key, "a");
    const run = await started(INES, one.key, [own.id], { build: "Build 77" });
    await say(INES, run, { caseId: own.id, stepId: own.steps[0].id }, result, { note: "Not so." });
    await end(run, INES);
  }
  const id = await releaseWith(passed.id, failed.id, bare.id);
  const { tests, untested } = await readReleasePage(INES, "TIX", id);
  expect(
    tests.map(({ key, tested, cases: [{ last }] }) => [key, tested, last?.build, last?.by]),
  ).toEqual([
    [failed.key, "failed", "Build 77", "Ines Dahl"],
    [passed.key, "passed", "Build 77", "Ines Dahl"],
  ]);
  expect(untested).toEqual([bare.id]);
  // Who may not see the item reads nothing of how it is tested.
  await database().update(item).set({ restricted: true }).where(eq(item.id, failed.id));
  const theirs = await readReleasePage(TOMAS, "TIX", id);
  expect(theirs.tests.map(({ key }) => key)).toEqual([passed.key]);
});

const rowOf = async (id: string) =>
  (await database().select().from(item).where(eq(item.id, id)))[0];
const under = (id: string) =>
  database()
    .select()
    .from(item)
    .where(and(eq(item.parentId, id), isNull(item.withdrawnAt)))
    .orderBy(item.number);

describe("a run of an item that is being built", () => {
  test("fails: one task for each step, the item goes back once with all reasons", async () => {
    const one = await itemAt(...IN_TEST);
    const made = await caseFor(one.key, "buy", "fly", "scan");
    const run = await started(IVO, one.key, [made.id]);
    const at = (i: number) => ({ caseId: made.id, stepId: made.steps[i].id });
    await say(IVO, run, at(0), "passed");
    await say(IVO, run, at(1), "failed", { note: "It stayed dark.", givenTo: "noor" });
    await say(IVO, run, at(2), "failed", { note: "It beeped twice." });
    const before = await readRun(IVO, "TIX", run.number);
    expect(before.moves).toMatchObject([{ itemId: one.id, byItself: { failed: false } }]);
    const back = before.moves[0].moves.find((move) => move.back)!;
    expect(back.toName).toBe("Building");
    const ended = await end(run, IVO, { moves: { [one.id]: back.to } });
    expect(ended.moved).toEqual([one.key]);
    const tasks = await under(one.id);
    expect(
      tasks.map(({ title, assigneeId, remainingHours }) => [title, assigneeId, remainingHours]),
    ).toEqual([
      [`It stayed dark. (step 2 of TIX-T${made.number})`, "noor", 2],
      [`It beeped twice. (step 3 of TIX-T${made.number})`, null, 2],
      ["Test again: Seats by the window", "ivo", 0.5],
    ]);
    expect(tasks[0].description).toContain("See fly");
    const after = await rowOf(one.id);
    expect([after.stateId, after.outside.testResult]).toEqual([
      await stateId("Building"),
      "failed",
    ]);
    const { history } = await readItem(IVO, one.key);
    const returned = history.filter(({ kind }) => kind === "moved").at(0)!;
    expect(returned.note).toContain(
      `Step 2 of TIX-T${made.number}: It stayed dark. (expected: See fly)`,
    );
    expect(returned.note).toContain("It beeped twice.");
    const view = await readRun(NOOR, "TIX", run.number);
    expect(view).toMatchObject({ verdict: "failed", failed: "steps 2 and 3", mayRecord: false });
    expect(view.cases[0].steps[1].became?.title).toBe(tasks[0].title);
  });

  test("shows what failed last time when it is tested again, and passes on", async () => {
    const one = await itemAt(...IN_TEST);
    const made = await caseFor(one.key, "buy");
    const at = { caseId: made.id, stepId: made.steps[0].id };
    const first = await started(IVO, one.key, [made.id]);
    await say(IVO, first, at, "failed", { note: "It stayed dark." });
    await end(first, IVO);
    expect((await readItemTests(NOOR, one.key)).tested).toBe("failed");
    const second = await started(IVO, one.key, [made.id]);
    const view = await readRun(IVO, "TIX", second.number);
    expect(view.nth).toBe(2);
    expect(view.cases[0].steps[0].lastTime).toMatchObject({
      note: "It stayed dark.",
      by: "Ivo Sandell",
    });
    await say(IVO, second, at, "passed");
    const [{ moves }] = view.moves;
    const onward = moves.find(({ toName }) => toName === "Ready to deploy")!;
    await end(second, IVO, { moves: { [one.id]: onward.to } });
    const tests = await readItemTests(NOOR, one.key);
    expect([tests.tested, tests.runs.map(({ verdict }) => verdict)]).toEqual([
      "passed",
      ["passed", "failed"],
    ]);
    expect((await rowOf(one.id)).outside.testResult).toBe("passed");
    // A third one has nothing to warn of.
    const third = await started(IVO, one.key, [made.id]);
    expect((await readRun(IVO, "TIX", third.number)).cases[0].steps[0].lastTime).toBeNull();
  });

  test("a pass is stale once its case says something else", async () => {
    const one = await itemAt(...IN_TEST);
    const made = await caseFor(one.key, "buy");
    const run = await started(IVO, one.key, [made.id]);
    // Written anew while the run is under way: the run keeps what it began with.
    const steps = [...made.steps, ...stepsOf("more")];
    await saveCase(NOOR, "TIX", { ...made.body, seenVersion: 1, steps });
    expect((await readRun(IVO, "TIX", run.number)).cases[0]).toMatchObject({
      ...{ rewritten: true, version: 1 },
      steps: [{ action: "Do buy" }],
    });
    await say(IVO, run, { caseId: made.id, stepId: made.steps[0].id }, "passed");
    await end(run, IVO);
    const tests = await readItemTests(NOOR, one.key);
    expect([tests.tested, tests.cases[0].stale]).toEqual(["stale", "rewritten"]);
  });

  test("a refused move keeps everything as it was", async () => {
    const one = await itemAt(...IN_TEST);
    const made = await caseFor(one.key, "buy");
    const run = await started(IVO, one.key, [made.id]);
    await say(IVO, run, { caseId: made.id, stepId: made.steps[0].id }, "failed", { note: "Dark." });
    const moves = { [one.id]: await stateId("Live") };
    expect(await refusalOf(end(run, IVO, { moves }))).toBe("no such move");
    expect(await under(one.id)).toEqual([]);
    expect((await readRun(IVO, "TIX", run.number)).endedAt).toBeNull();
  });
});

describe("finished work stays finished", () => {
  const finished = async () => {
    const one = await itemAt(...IN_TEST, "Ready to deploy");
    await move(NOOR, one.id, "Live", { ...ANSWERS, outcome: "delivered" });
    return one;
  };

  test("what fails becomes a bug of its own, linked to where it was found, with its pictures", async () => {
    const one = await finished();
    const made = await caseFor(one.key, "buy");
    const at = { caseId: made.id, stepId: made.steps[0].id };
    const run = await started(IVO, one.key, [made.id]);
    const content = readFileSync("docs/screenshots/board.png");
    const picture = { id: randomUUID(), ...at, name: "gate.png", content };
    await addTestPicture(IVO, run, picture);
    const gone = { ...picture, id: randomUUID() };
    await addTestPicture(IVO, run, gone);
    await removeTestPicture(IVO, run, gone.id);
    expect((await testPictureFor(ARTHUR, run, picture.id)).content).toEqual(content);
    await say(IVO, run, at, "failed", { note: "It is dark.", course: "belongs to it" });
    const {
      made: [bug],
      moved,
    } = await end(run, IVO);
    expect(moved).toEqual([]);
    const view = await readItem(IVO, bug.key);
    expect(view.item.typeId).toBe("bug");
    expect(view.links.map(({ words, key }) => [words, key])).toEqual([["found in", one.key]]);
    expect((await readItemTests(NOOR, bug.key)).foundBy).toEqual({
      ...{ caseKey: `TIX-T${made.number}`, caseNumber: Number(made.number), step: 1 },
      ...{ expected: "See buy", run: Number(run.number) },
    });
    expect((await rowOf(one.id)).stateKind).toBe("finished");
    const files = await database().select().from(itemFile).where(eq(itemFile.itemId, view.item.id));
    expect(files.map(({ name }) => name)).toEqual(["gate.png"]);
  });

  test("nothing takes it out of its end through a run", async () => {
    const one = await finished();
    const made = await caseFor(one.key, "buy");
    const run = await started(IVO, one.key, [made.id]);
    await say(IVO, run, { caseId: made.id, stepId: made.steps[0].id }, "failed", { note: "Dark." });
    const moves = { [one.id]: await stateId("Backlog") };
    expect(await refusalOf(end(run, IVO, { moves }))).toBe("invalid");
  });

  test("what must be mended now is expedited, sized at nothing and begun", async () => {
    const one = await itemAt(...IN_TEST);
    const made = await caseFor(one.key, "buy");
    const run = await started(IVO, one.key, [made.id]);
    const at = { caseId: made.id, stepId: made.steps[0].id };
    await say(IVO, run, at, "failed", { note: "It burns.", course: "mend now", givenTo: "noor" });
    const {
      made: [bug],
    } = await end(run, IVO);
    const { item: after } = await readItem(IVO, bug.key);
    expect(after).toMatchObject({ classOfService: "expedite", estimate: 0, assigneeId: "noor" });
    expect(after.stateKind).not.toBe("unstarted");
    expect(await under(one.id)).toEqual([]);
  });
});

describe("whose a run is", () => {
  test("only its tester and leads say what is seen; observers and strangers start none", async () => {
    const one = await itemAt(...IN_TEST);
    const made = await caseFor(one.key, "buy");
    const run = await started(IVO, one.key, [made.id]);
    const at = { caseId: made.id, stepId: made.steps[0].id };
    expect(await refusalOf(say(NOOR, run, at, "passed"))).toBe("not allowed");
    await say(INES, run, at, "blocked", { note: "No gate here." });
    expect(await refusalOf(started(ARTHUR, one.key, [made.id]))).toBe("not allowed");
    expect(await refusalOf(readRun(OSKAR, "TIDE", "1"))).toBe("not found");
    expect(await refusalOf(say(IVO, run, { ...at, stepId: randomUUID() }, "passed"))).toBe(
      "not found",
    );
  });

  test("it can be given up and gone on with, and ends once", async () => {
    const one = await itemAt(...IN_TEST);
    const made = await caseFor(one.key, "buy", "scan");
    const run = await started(IVO, one.key, [made.id]);
    const at = { caseId: made.id, stepId: made.steps[0].id };
    expect(await refusalOf(end(run, IVO))).toBe("invalid");
    await giveUpRun(IVO, run, { givenUp: true });
    expect(await refusalOf(say(IVO, run, at, "passed"))).toBe("conflict");
    expect((await readItemTests(IVO, one.key)).gaveUp).toBe(Number(run.number));
    await giveUpRun(IVO, run, { givenUp: false });
    expect((await readItemTests(IVO, one.key)).gaveUp).toBeNull();
    await say(IVO, run, at, "passed");
    await end(run, IVO);
    // Not all of it was tried: that is neither passed nor failed, and the item hears nothing.
    expect((await readRun(IVO, "TIX", run.number)).verdict).toBeNull();
    expect((await rowOf(one.id)).outside.testResult).toBeNull();
    expect(await refusalOf(end(run, IVO))).toBe("conflict");
  });
});

describe("cases", () => {
  test("each change is a version; two who write at once do not undo each other", async () => {
    const made = await caseFor(null, "buy", "scan");
    const anew = { ...made.body, seenVersion: 1, title: "Try it by night" };
    await saveCase(NOOR, "TIX", anew);
    // Sent once more it is the same.
    await saveCase(NOOR, "TIX", anew);
    expect(await refusalOf(saveCase(IVO, "TIX", { ...anew, title: "Try it by day" }))).toBe(
      "conflict",
    );
    const view = await readCase(NOOR, "TIX", made.number);
    expect(view.versions.map(({ version, change }) => [version, change])).toEqual([
      [2, "gave it another title"],
      [1, "wrote it"],
    ]);
    const kept = await database()
      .select()
      .from(testCaseVersion)
      .where(eq(testCaseVersion.caseId, made.id));
    expect(kept).toHaveLength(2);
  });

  test("one that is put away tests nothing, and comes back", async () => {
    const one = await itemAt("Ready");
    const made = await caseFor(one.key, "buy");
    await putAwayCase(NOOR, { key: "TIX", number: made.number }, { putAway: true });
    expect((await readItemTests(NOOR, one.key)).tested).toBe("no case");
    expect(await refusalOf(started(IVO, one.key, [made.id]))).toBe("invalid");
    await putAwayCase(NOOR, { key: "TIX", number: made.number }, { putAway: false });
    expect((await readItemTests(NOOR, one.key)).tested).toBe("not tried");
    await linkCase(NOOR, one.key, { caseId: made.id, on: false });
    expect((await readItemTests(NOOR, one.key)).tested).toBe("no case");
    expect(await refusalOf(linkCase(ARTHUR, one.key, { caseId: made.id, on: true }))).toBe(
      "not allowed",
    );
  });

  test("a suite is run as a whole, and what is put away keeps its cases", async () => {
    const suite = { id: randomUUID(), name: "Before the storm", putAway: false };
    await saveSuite(NOOR, "TIX", suite);
    expect(await refusalOf(saveSuite(NOOR, "TIX", { ...suite, id: randomUUID() }))).toBe("invalid");
    const one = await itemAt("Ready", "Building");
    const made = await caseFor(one.key, "buy");
    await saveCase(NOOR, "TIX", { ...made.body, seenVersion: 1, suiteId: suite.id });
    const run = await started(TOMAS, null, [made.id], { suiteId: suite.id });
    const view = await readRun(TOMAS, "TIX", run.number);
    // It tests one open item: what fails belongs to that.
    expect([view.title, view.cases[0].item?.key]).toEqual(["Before the storm", one.key]);
    await saveSuite(NOOR, "TIX", { ...suite, putAway: true });
    const { suites, suitesAway, cases } = await readCases(NOOR, "TIX");
    expect(suites.some(({ id }) => id === suite.id)).toBe(false);
    expect(suitesAway).toEqual([{ id: suite.id, name: suite.name }]);
    expect(cases.find(({ id }) => id === made.id)?.items).toMatchObject([{ key: one.key }]);
  });
});

describe("the tester's queue", () => {
  test("shows what waits, where it can be tried and what came of it last", async () => {
    const app = `app-${randomUUID().slice(0, 8)}`;
    const one = await itemAt(...IN_TEST.slice(0, -1));
    const made = await caseFor(one.key, "buy");
    const written = commit(`${one.key}: seats`, { after: [] });
    await post(
      pushed("main", [written], { repository: app, main: true, time: "2026-11-23T10:00:00Z" }),
    );
    const row = async () =>
      (await readTestQueue(TOMAS, "TIX")).rows.find(({ id }) => id === one.id)!;
    expect(await row()).toMatchObject({ on: null, tested: "not tried", cases: 1, begun: false });
    expect((await row()).mergedAt).not.toBeNull();
    const deployed = (environment: string, time: string) =>
      post({
        ...delivery(
          "service.deployed",
          { id: app, content: { repository: { id: app }, environment: { id: environment } } },
          { commit: written.id, build: "b 1" },
        ),
        time,
      });
    await deployed("test", "2026-11-23T11:00:00Z");
    expect((await row()).on).toMatchObject({ environment: "test" });
    const takeTo = (await row()).takesTo!;
    expect(takeTo.toName).toBe("In test");
    const run = await started(TOMAS, one.key, [made.id], { takeTo: takeTo.to });
    expect(await row()).toMatchObject({ begun: true, running: { number: Number(run.number) } });
  });

  test("leaves out what somebody may not see", async () => {
    const one = await itemAt(...IN_TEST);
    await database().update(item).set({ restricted: true }).where(eq(item.id, one.id));
    const keys = async (viewer: Viewer) =>
      (await readTestQueue(viewer, "TIX")).rows.map(({ key }) => key);
    expect(await keys(INES)).toContain(one.key);
    expect(await keys(TOMAS)).not.toContain(one.key);
    const made = await caseFor(null, "secret");
    await linkCase(INES, one.key, { caseId: made.id, on: true });
    const run = await started(INES, one.key, [made.id]);
    const { number } = await readRun(INES, "TIX", run.number);
    // What was written for it, and what was seen in it, is there for those who see it.
    const at = { caseId: made.id, stepId: made.steps[0].id };
    for (const tried of [
      readRun(TOMAS, "TIX", String(number)),
      readCase(TOMAS, "TIX", made.number),
      readSuspects(TOMAS, "TIX", run.number, at),
      say(TOMAS, run, at, "passed"),
      saveCase(TOMAS, "TIX", { ...made.body, seenVersion: 1 }),
      putAwayCase(TOMAS, { key: "TIX", number: made.number }, { putAway: true }),
      started(TOMAS, null, [made.id]),
    ])
      expect(await refusalOf(tried)).toBe("not found");
    const listed = async (viewer: Viewer) =>
      (await readCases(viewer, "TIX")).cases.some(({ id }) => id === made.id);
    expect([await listed(INES), await listed(TOMAS)]).toEqual([true, false]);
    // One that tests something else too says nothing of what is hidden.
    const open = await itemAt("Ready");
    await linkCase(INES, open.key, { caseId: made.id, on: true });
    expect((await readCase(TOMAS, "TIX", made.number)).items.map(({ key }) => key)).toEqual([
      open.key,
    ]);
  });
});

describe("what machines find", () => {
  const junit = (results: Record<string, boolean>) =>
    `<testsuites><testsuite name="s">${Object.entries(results)
      .map(
        ([name, passed]) =>
          `<testcase name="${name}">${passed ? "" : '<failure message="no"/>'}</testcase>`,
      )
      .join("")}</testsuite></testsuites>`;
  const told = (
    repository: string,
    hash: string,
    xml: string,
    { run = randomUUID(), time = "2026-11-23T12:00:00Z" } = {},
  ) =>
    post({
      ...delivery(
        "testsuiterun.finished",
        { id: run, content: { repository: { id: repository } } },
        { commit: hash, run, junit: xml },
      ),
      time,
    });

  test("is matched to cases, and a test that changes its mind is named", async () => {
    const app = `app-${randomUUID().slice(0, 8)}`;
    const one = await itemAt("Ready", "Building");
    const made = await caseFor(one.key, "buy");
    const hash = commit("x", { after: [] }).id;
    const name = `TIX-T${made.number} sells a seat`;
    await told(app, hash, junit({ [name]: false, other: true }));
    await told(app, hash, junit({ [name]: true, other: true }), { time: "2026-11-23T12:10:00Z" });
    const { cases } = await readItemTests(NOOR, one.key);
    expect(cases[0].machines).toMatchObject([{ name, changedMind: 1, last: { result: "passed" } }]);
    const all = await readCases(NOOR, "TIX");
    expect(all.cases.find(({ id }) => id === made.id)).toMatchObject({
      unsteady: true,
      machines: 1,
    });
    // A case that is written later finds the test that was there before it.
    const titled = await saveCase(NOOR, "TIX", {
      ...{ id: randomUUID(), seenVersion: null, part: null, suiteId: null, itemKey: null },
      ...{ title: "Other", before: "", steps: stepsOf("it") },
    });
    expect((await readCase(NOOR, "TIX", String(titled.number))).machines).toMatchObject([
      { name: "other", changedMind: 0 },
    ]);
  });

  test("a test that fails on the item's own branch is there before the work", async () => {
    const app = `app-${randomUUID().slice(0, 8)}`;
    const one = await itemAt("Ready");
    const known = () => transact((tx) => knownTests(tx, one.id));
    expect(await known()).toEqual([]);
    const made = await caseFor(one.key, "buy");
    expect(await known()).toMatchObject([{ automatic: false, lastWithout: null }]);
    const written = commit("a test", { after: [] });
    const branch = `nb/${one.key}-seats`;
    await post(pushed(branch, [written], { repository: app, time: "2026-11-23T10:00:00Z" }));
    await told(app, written.id, junit({ [`TIX-T${made.number}`]: false }));
    expect(await known()).toMatchObject([{ automatic: true, lastWithout: "failed" }]);
    const mended = commit("the work", { after: [written] });
    await post(pushed(branch, [mended], { repository: app, time: "2026-11-23T13:00:00Z" }));
    await told(app, mended.id, junit({ [`TIX-T${made.number}`]: true }), {
      time: "2026-11-23T13:10:00Z",
    });
    const { firstFailed } = await readItemTests(NOOR, one.key);
    expect(firstFailed).toMatchObject([
      { failedAt: Date.UTC(2026, 10, 23, 12), passedAt: Date.UTC(2026, 10, 23, 13, 10) },
    ]);
  });

  test("results that are no XML are refused, and nothing of them is kept", async () => {
    const answer = await told(
      `app-${randomUUID().slice(0, 8)}`,
      "a".repeat(40),
      "<testsuites>",
    ).then(
      () => "taken",
      (error: Error) => error.constructor.name,
    );
    expect(answer).toBe("ZodError");
  });
});

test("whose a failing step may be: what was made for the item before what merely came since", async () => {
  const app = `app-${randomUUID().slice(0, 8)}`;
  const [one, other] = [await itemAt(...IN_TEST), await itemAt("Ready", "Building")];
  const made = await caseFor(one.key, "buy");
  const own = commit(`${one.key}: seats`, { after: [] });
  const last = commit(`${other.key}: colours`, { after: [own] });
  const main = { repository: app, main: true };
  await post(pushed("main", [own], { ...main, time: "2026-11-23T10:00:00Z" }));
  await post(pushed("main", [last], { ...main, time: "2026-11-23T11:00:00Z" }));
  const build = `b-${app}`;
  await post({
    ...delivery(
      "artifact.published",
      { id: build, content: { repository: { id: app } } },
      { commit: last.id, build },
    ),
    time: "2026-11-23T12:00:00Z",
  });
  const run = await started(IVO, one.key, [made.id], { build });
  const at = { caseId: made.id, stepId: made.steps[0].id };
  const { suspects, since } = await readSuspects(IVO, "TIX", run.number, at);
  expect(suspects.map(({ item: of }) => of?.key)).toEqual([one.key, other.key]);
  expect(suspects[0].evidence[0]).toBe(`made for ${one.key}`);
  expect(since).toBeNull();
});
