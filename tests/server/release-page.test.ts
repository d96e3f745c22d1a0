import { spawnSync } from "node:child_process";
import { randomUUID } from "node:crypto";
import path from "node:path";
import { and, eq } from "drizzle-orm";
import type { OutBody, Unfinished } from "@/core/ship/release/release-page";
import { database, transact } from "@/db/connection";
import { alert, alertPart, follow as following, item, knownProblem, mailOut } from "@/db/schema";
import { followItem } from "@/server/intake/follow-up";
import { readPrivatePage } from "@/server/intake/private-page";
import { doBulkChunk } from "@/server/item/bulk/chunk";
import { createItem } from "@/server/item/create";
import { editTimebox } from "@/server/plan/timeboxes";
import { setOut, writeNote } from "@/server/ship/release/change-release";
import {
  publishReleases,
  readPublicReleases,
  readReleaseFeed,
} from "@/server/ship/release/public-releases";
import { readReleasePage } from "@/server/ship/release/read-release";
import { withdrawRelease } from "@/server/ship/release/withdraw";
import { saveCase } from "@/server/ship/testing/cases";
import { ANSWERS, itemIn, move, refusalOf, send } from "./setup/board";
import { ARTHUR, INES, NOOR, OSKAR, TOMAS } from "./setup/people";
import { accepting, sent, verdictOn } from "./setup/reports";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const TO_DEPLOY = ["Ready", "Building", "Waiting for review", "In review", "Waiting for test"];

/** A release of its own, with items that stand in different places of the process. */
async function releaseOf(name: string) {
  const id = randomUUID();
  await editTimebox(INES, "TIX", {
    kind: "release",
    release: { id, name, dueOn: "2027-01-10", released: false, why: "" },
  });
  const put = async (title: string, ...path: string[]) => {
    const itemId = await itemIn(NOOR, title, ...path);
    const read = async () => (await database().select().from(item).where(eq(item.id, itemId)))[0];
    const { version: seenVersion, number } = await read();
    await send(NOOR, itemId, { kind: "edit", seenVersion, changes: { releaseId: id } });
    return { id: itemId, key: `TIX-${number}`, read };
  };
  const at = { key: "TIX", release: id };
  return { id, at, put, page: (by = INES) => readReleasePage(by, "TIX", id) };
}

const live = (id: string) => move(NOOR, id, "Live", { ...ANSWERS, outcome: "delivered" });
const out = (more: Partial<OutBody> = {}): OutBody => ({
  ...{ id: randomUUID(), out: true, unfinished: "stays", except: {}, ...more },
});

test("what stands against it is said by item, the gravest first; what is finished is ready", async () => {
  const release = await releaseOf("Crossing of ice");
  const begun = await release.put("Colours of the map", "Ready", "Building");
  const blocked = await release.put("Names of the quays", "Ready", "Building");
  await send(NOOR, blocked.id, { kind: "block", cause: "No names yet", waitingFor: null });
  const bare = await release.put("Seats for gulls");
  const done = await release.put("Seats for dogs", ...TO_DEPLOY, "In test", "Ready to deploy");
  await live(done.id);
  await saveCase(NOOR, "TIX", {
    ...{ id: randomUUID(), seenVersion: null, part: null, suiteId: null, itemKey: begun.key },
    ...{ title: "Colours", before: "" },
    steps: [{ id: randomUUID(), action: "Look", expected: "" }],
  });
  const page = await release.page();
  expect(page.rows.map(({ key, against }) => [key, against[0].kind])).toEqual([
    [blocked.key, "blocked"],
    [bare.key, "not begun"],
    [begun.key, "open"],
  ]);
  expect(page.rows[2].against.map(({ kind }) => kind)).toContain("not tested");
  expect(page.rows[0].against.map(({ kind }) => kind)).toContain("no case");
  expect([page.ready, page.unseen]).toEqual([1, 0]);
  expect(page.stages.map(({ stateName, n }) => [stateName, n])).toEqual([
    ["Backlog", 1],
    ["Building", 2],
    ["Live", 1],
  ]);
});

test("notes are written and left out by who plans; what is hidden stands in nobody else's", async () => {
  const release = await releaseOf("Crossing of fog");
  const done = await release.put("Seats for dogs", ...TO_DEPLOY, "In test", "Ready to deploy");
  const hidden = await release.put("Secret of the quay");
  await database().update(item).set({ restricted: true }).where(eq(item.id, hidden.id));
  await writeNote(INES, release.at, { itemId: done.id, words: "Dogs may sit.", internal: false });
  const page = await release.page();
  expect(page.notes.map(({ key, words, internal }) => [key, words, internal])).toEqual(
    expect.arrayContaining([
      [done.key, "Dogs may sit.", false],
      // Nobody outside reads of it unless somebody says so.
      [hidden.key, "", true],
    ]),
  );
  const theirs = await release.page(TOMAS);
  expect([theirs.unseen, JSON.stringify(theirs).includes("Secret")]).toEqual([1, false]);
  const note = { itemId: hidden.id, words: "x", internal: false };
  expect(await refusalOf(writeNote(ARTHUR, release.at, note))).toBe("not allowed");
  expect(await refusalOf(readReleasePage(OSKAR, "TIDE", undefined))).toBe("not found");
  const elsewhere = await itemIn(NOOR, "In no release");
  expect(await refusalOf(writeNote(INES, release.at, { ...note, itemId: elsewhere }))).toBe(
    "not found",
  );
});

test("it is out: its notes stay as they were, what is not finished goes where it is said, and all is taken back", async () => {
  const release = await releaseOf("Crossing of wind");
  const next = (await release.page()).next!;
  const done = await release.put("Seats for dogs", ...TO_DEPLOY, "In test", "Ready to deploy");
  await live(done.id);
  const [goes, leaves, stays] = [
    await release.put("One", "Ready"),
    await release.put("Two", "Ready"),
    await release.put("Three", "Ready"),
  ];
  const task = await createItem(NOOR, {
    ...{ commandId: randomUUID(), projectKey: "TIX", parentId: stays.id },
    fields: { title: "A part of it", typeId: "task", releaseId: release.id },
  });
  const goesToo = await release.put("Four", ...TO_DEPLOY, "In test", "Ready to deploy");
  const except = {
    ...{ [leaves.id]: "no release", [stays.id]: "stays", [goesToo.id]: "is out too" },
  } as Record<string, Unfinished>;
  const answer = out({ unfinished: "next release", except });
  expect(await refusalOf(setOut(ARTHUR, release.at, answer))).toBe("not allowed");
  const canFinish = (await release.page()).rows.filter((row) => row.canFinish);
  expect(canFinish.map(({ key }) => key)).toEqual([goesToo.key]);
  expect(await setOut(INES, release.at, answer)).toEqual({ moving: 3 });
  // Sent once more nothing happens once more.
  expect(await setOut(INES, release.at, answer)).toEqual({ moving: 0 });
  while ((await doBulkChunk()) > 0);
  const releases = await Promise.all(
    [goes, leaves, stays, done].map(async ({ read }) => (await read()).releaseId),
  );
  expect(releases).toEqual([next.id, null, release.id, release.id]);
  expect(await goesToo.read()).toMatchObject({ stateKind: "finished", outcome: "delivered" });
  // What is part of something goes where that goes.
  const [part] = await database().select().from(item).where(eq(item.id, task.card.id));
  expect(part.releaseId).toBe(release.id);
  const page = await release.page();
  expect(page.release!.releasedAt).not.toBeNull();
  expect(page.outNotes!.split("\n").toSorted()).toEqual(
    ["# Crossing of wind", "", "## New", "", "- Seats for dogs", "- Four", ""].toSorted(),
  );
  await writeNote(INES, release.at, { itemId: done.id, words: "Later", internal: false });
  expect((await release.page()).outNotes).toContain("Seats for dogs");
  await setOut(INES, release.at, out({ out: false }));
  const back = await release.page();
  expect([back.release!.releasedAt, back.outNotes]).toEqual([null, null]);
});

test("one that is not there leads to the next one to come", async () => {
  const { release, releases } = await readReleasePage(INES, "TIX", "nothing-such");
  expect(release!.id).toBe(releases.find(({ releasedAt }) => releasedAt === null)!.id);
});

describe("whoever reported something hears once", () => {
  const letters = async (reportId: string) =>
    (
      await database()
        .select({ body: mailOut.body, failed: mailOut.failed, itemId: mailOut.itemId })
        .from(mailOut)
        .where(eq(mailOut.reportId, reportId))
        .orderBy(mailOut.id)
    ).filter(({ itemId }) => itemId !== null);
  const follow = (itemId: string) => transact((tx) => followItem(tx, itemId, Date.now(), true));
  const reported = async (releaseId: string | null) => {
    const row = await sent({ mail: [`${randomUUID().slice(0, 8)}@post.saltmarsh.example`] });
    const { itemId } = await verdictOn(row.id, accepting({ releaseId, assigneeId: "noor" }));
    for (const to of [...TO_DEPLOY, "In test", "Ready to deploy"]) await move(NOOR, itemId!, to);
    await live(itemId!);
    await follow(itemId!);
    return { row, itemId: itemId! };
  };

  test("at its release, in its name; taken back with it while it is not sent", async () => {
    const release = await releaseOf("Crossing of snow");
    const { row } = await reported(release.id);
    expect(await letters(row.id)).toEqual([]);
    await setOut(INES, release.at, out());
    const [letter, ...more] = await letters(row.id);
    expect([letter.body.includes("part of Crossing of snow"), more]).toEqual([true, []]);
    const page = async () =>
      (await readPrivatePage(row.token)).messages.map(({ body }) => body).join("\n");
    expect(await page()).toContain("It is out: what you reported is part of Crossing of snow.");
    await setOut(INES, release.at, out({ out: false }));
    expect((await letters(row.id)).map(({ failed }) => failed)).toEqual(["taken back"]);
    expect(await page()).not.toContain("It is out");
  });

  test("what is finished only after its release went out is told with it too; words on it later tell nobody again", async () => {
    const release = await releaseOf("Crossing of rain");
    await setOut(INES, release.at, out());
    const { row, itemId } = await reported(release.id);
    const [letter] = await letters(row.id);
    expect(letter.body).toContain("part of Crossing of rain");
    const page = async () => (await readPrivatePage(row.token)).messages.map(({ body }) => body);
    const before = await page();
    expect(before.slice(-2)).toEqual([
      expect.stringMatching(/^Done\. /),
      "It is out: what you reported is part of Crossing of rain.",
    ]);
    await send(NOOR, itemId, { kind: "comment", body: "Well done." });
    await follow(itemId);
    expect(await page()).toEqual(before);
    expect(await letters(row.id)).toHaveLength(1);
  });

  test("taken back they get one letter with why, and hear again once it is out with another one", async () => {
    const release = await releaseOf("Crossing of dusk");
    const next = await releaseOf("Crossing of dawn");
    const { row, itemId } = await reported(release.id);
    await setOut(INES, release.at, out());
    await database()
      .update(mailOut)
      .set({ sentAt: Date.now() })
      .where(eq(mailOut.reportId, row.id));
    const body = { withdrawn: true, why: "Prices were wrong.", except: {} };
    await withdrawRelease(INES, release.at, { ...body, finished: "stays as it is" });
    const last = async () => (await letters(row.id)).at(-1)!;
    expect((await last()).body).toContain(
      "Crossing of dusk, which what you reported was part of, was taken back: Prices were wrong. You",
    );
    expect(await letters(row.id)).toHaveLength(2);
    const [{ version: seenVersion }] = await database()
      .select()
      .from(item)
      .where(eq(item.id, itemId));
    await send(NOOR, itemId, { kind: "edit", seenVersion, changes: { releaseId: next.id } });
    await setOut(INES, next.at, out());
    expect(await letters(row.id)).toHaveLength(3);
    expect((await last()).body).toContain("part of Crossing of dawn");
  });

  test("they hear that its release comes later, not that it comes sooner; moved back in a minute, nothing was said", async () => {
    const release = await releaseOf("Crossing of noon");
    const row = await sent({ mail: [`${randomUUID().slice(0, 8)}@post.saltmarsh.example`] });
    const accept = accepting({ releaseId: release.id, assigneeId: "noor" });
    const { itemId } = await verdictOn(row.id, accept);
    await database()
      .insert(following)
      .values({
        ...{ personId: "tomas", kind: "item", target: itemId!, on: true },
        ...{ why: "chosen", since: Date.now() },
      });
    const dueOn = (day: string) =>
      editTimebox(INES, "TIX", {
        kind: "release",
        release: {
          ...{ id: release.id, name: "Crossing of noon", dueOn: day },
          ...{ released: false, why: "Noor is ill" },
        },
      });
    const told = async () =>
      (
        await database()
          .select({ body: mailOut.body, failed: mailOut.failed })
          .from(mailOut)
          .where(eq(mailOut.reportId, row.id))
          .orderBy(mailOut.id)
      ).filter(({ body }) => body.includes("comes later"));
    const page = async () =>
      (await readPrivatePage(row.token)).messages.map(({ body }) => body).join("\n");
    await dueOn("2027-01-03");
    expect(await told()).toEqual([]);
    await dueOn("2027-01-24");
    const [letter] = await told();
    expect(letter.body).toContain(
      "Crossing of noon, which what you reported goes out with, comes later: 24 Jan, not 3 Jan.",
    );
    // Why it is late is the crew's own.
    expect(letter.body + (await page())).not.toContain("ill");
    const alerts = await database()
      .select({ said: alertPart.said })
      .from(alertPart)
      .innerJoin(alert, eq(alert.id, alertPart.alertId))
      .where(and(eq(alert.itemId, itemId!), eq(alert.personId, "tomas")));
    expect(alerts.map(({ said }) => said)).toContain(
      "Crossing of noon comes later: 24 Jan, not 3 Jan",
    );
    await dueOn("2027-01-03");
    expect((await told()).map(({ failed }) => failed)).toEqual(["taken back"]);
    expect(await page()).not.toContain("comes later");
  });

  test("at its end where it is in no release, and not again when that is out", async () => {
    const release = await releaseOf("Crossing of hail");
    const { row, itemId } = await reported(null);
    expect(await letters(row.id)).toHaveLength(1);
    const [{ version: seenVersion }] = await database()
      .select()
      .from(item)
      .where(eq(item.id, itemId));
    await send(NOOR, itemId, { kind: "edit", seenVersion, changes: { releaseId: release.id } });
    // Said to be out where it is planned: the same as where it is sent out.
    await editTimebox(INES, "TIX", {
      kind: "release",
      release: {
        ...{ id: release.id, name: "Crossing of hail", dueOn: "2027-01-10" },
        ...{ released: true, why: "" },
      },
    });
    expect(await letters(row.id)).toHaveLength(1);
  });
});

describe("what went out, for anyone", () => {
  test("is read once a lead wants it: what went out, and what is known, never what is hidden", async () => {
    await publishReleases(INES, "TIX", { on: false });
    expect(await refusalOf(readPublicReleases("TIX"))).toBe("not found");
    expect(await refusalOf(publishReleases(NOOR, "TIX", { on: true }))).toBe("not allowed");
    const release = await releaseOf("Crossing of stars <b>");
    const done = await release.put(
      "Seats & <i>dogs</i>",
      ...TO_DEPLOY,
      "In test",
      "Ready to deploy",
    );
    const hidden = await release.put("Secret", ...TO_DEPLOY, "In test", "Ready to deploy");
    for (const one of [done, hidden]) await live(one.id);
    await database().update(item).set({ restricted: true }).where(eq(item.id, hidden.id));
    const [open, restricted] = [await release.put("Open"), await release.put("Closed")];
    await database().update(item).set({ restricted: true }).where(eq(item.id, restricted.id));
    await database()
      .insert(knownProblem)
      .values(
        [open, restricted].map(({ id }, i) => ({
          ...{ itemId: id, words: `Gates hum ${i}`, byId: "ines", at: Date.now() },
        })),
      );
    await setOut(INES, release.at, out());
    await publishReleases(INES, "TIX", { on: true });
    const view = await readPublicReleases("TIX");
    expect(view.releases[0]).toMatchObject({ name: "Crossing of stars <b>" });
    expect(view.releases[0].notes).toContain("- Seats & \\<i\\>dogs\\</i\\>");
    expect(view.known).toContain("Gates hum 0");
    expect(view.known).not.toContain("Gates hum 1");
    expect(JSON.stringify(view)).not.toContain("Secret");
    const feed = await readReleaseFeed("TIX");
    expect(feed).toContain("Crossing of stars &lt;b&gt;");
    // RFC 4287, appendix B.
    const schema = path.join(process.cwd(), "tests/reference/atom/atom.rng");
    const checked = spawnSync("xmllint", ["--noout", "--relaxng", schema, "-"], { input: feed });
    expect(checked.stderr.toString()).toMatch(/validates\s*$/);
    await setOut(INES, release.at, out({ out: false }));
    expect((await readPublicReleases("TIX")).releases.map(({ id }) => id)).not.toContain(
      release.id,
    );
    await publishReleases(INES, "TIX", { on: false });
    expect(await refusalOf(readReleaseFeed("TIX"))).toBe("not found");
  });
});

test("taken back: the day that it was out stays, each finished item goes where it is said, and one letter says why", async () => {
  const release = await releaseOf("Crossing of rain");
  const [again, reopened, left] = [
    await release.put("Seats for geese", ...TO_DEPLOY, "In test", "Ready to deploy"),
    await release.put("Seats for swans", ...TO_DEPLOY, "In test", "Ready to deploy"),
    await release.put("Seats for ducks", ...TO_DEPLOY, "In test", "Ready to deploy"),
  ];
  for (const { id } of [again, reopened, left]) await live(id);
  const next = (await release.page()).next!;
  const body = {
    ...{ withdrawn: true, why: "Prices were wrong", finished: "goes out again" as const },
    except: {
      [reopened.id]: "is reopened" as const,
      [left.id]: "stays as it is" as const,
    },
  };
  expect(await refusalOf(withdrawRelease(INES, release.at, body))).toBe("invalid");
  await setOut(INES, release.at, out());
  const { releasedAt } = (await release.page()).release!;
  expect(await refusalOf(withdrawRelease(ARTHUR, release.at, body))).toBe("not allowed");
  expect(await withdrawRelease(INES, release.at, body)).toEqual({ moving: 2 });
  while ((await doBulkChunk()) > 0);
  const page = await release.page();
  expect([page.release!.releasedAt, page.withdrawn?.why]).toEqual([releasedAt, body.why]);
  const [a, r, l] = [await again.read(), await reopened.read(), await left.read()];
  expect([a.releaseId, a.stateKind]).toEqual([next.id, "finished"]);
  expect([r.releaseId, r.stateKind]).toEqual([release.id, "unstarted"]);
  expect([l.releaseId, l.stateKind]).toEqual([release.id, "finished"]);
  // Twice is once; and it is out after all.
  expect(await withdrawRelease(INES, release.at, body)).toEqual({ moving: 0 });
  await withdrawRelease(INES, release.at, { ...body, withdrawn: false, why: "" });
  expect((await release.page()).withdrawn).toBeNull();
});
