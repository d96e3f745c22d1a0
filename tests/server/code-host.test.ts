import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { changeTransition } from "@/core/workflow/edit";
import type { Trigger } from "@/core/workflow/trigger";
import { database } from "@/db/connection";
import { codeAddress, domainEvent, item } from "@/db/schema";
import { checkItems } from "@/server/item/check";
import { readItem } from "@/server/item/read";
import { itemIn, move, refusalOf, send } from "./setup/board";
import { changeSaid, commit, hashOf, pushed } from "./setup/code-host";
import { delivery, post, settle } from "./setup/events";
import { INES, IVO, NOOR } from "./setup/people";
import { publishChange, runningWorkflow } from "./setup/process";
import { givenTestDatabase } from "./setup/test-database";
import { placeConsumersAtTheEnd } from "./setup/unfollowed";

givenTestDatabase();
beforeAll(placeConsumersAtTheEnd);

const keyOf = async (id: string) =>
  `TIX-${(await database().select().from(item).where(eq(item.id, id)))[0].number}`;
const building = async (title = "On the way") => {
  const id = await itemIn(NOOR, title, "Ready", "Building");
  return { id, key: await keyOf(id) };
};
const codeOf = async (key: string) => (await readItem(INES, key)).code;
const heard = async (key: string) =>
  (await readItem(INES, key)).history.flatMap(({ kind, words }) =>
    kind === "reported" ? [words.replace("heard: ", "")] : [],
  );
/** Names that no other test uses. */
const fresh = (words: string) => `${words}-${randomUUID().slice(0, 6)}`;
const branchOf = (key: string) => fresh(`id/${key.toLowerCase()}-offline`);

describe("what is pushed", () => {
  test("belongs to the item that the branch names, with its commits; the item is told once", async () => {
    const { key } = await building();
    const branch = branchOf(key);
    const first = commit("Keep the ticket\n\nFor when there is no net.");
    const second = commit("Say how old it is", { after: [first], insertions: 7 });
    await post(pushed(branch, [first]));
    await post(pushed(branch, [second]));
    const { works, mentions } = await codeOf(key);
    expect(works).toMatchObject([
      {
        ...{ repository: "ticket-prices", branch, branchGone: false, change: null },
        size: { files: 4, insertions: 17, deletions: 6 },
        commits: expect.arrayContaining([
          expect.objectContaining({
            subject: "Keep the ticket",
            by: { name: "Ines Dahl", personId: INES.personId },
            ...{ onMain: false, leftBehind: false },
          }),
        ]),
      },
    ]);
    expect(works[0].commits).toHaveLength(2);
    expect(mentions).toEqual([]);
    expect(await heard(key)).toEqual(["something was pushed for it"]);
  });

  test("belongs to every item that a message names, and to none of another project", async () => {
    const [one, other] = [await building("One"), await building("Other")];
    const said = commit(`${one.key}, ${other.key}: both at once, like GATE-1`);
    const taken = await post(pushed(fresh("tidy"), [said]));
    expect(taken.items.toSorted()).toEqual([one.key, other.key].toSorted());
    for (const { key } of [one, other])
      expect((await codeOf(key)).mentions).toMatchObject([{ hash: said.id }]);
    expect((await readItem(INES, "GATE-1")).code.mentions).toEqual([]);
  });

  test("sent again, or with the events before it, changes nothing", async () => {
    const { key } = await building();
    const branch = branchOf(key);
    const event = pushed(branch, [commit("Once")]);
    await post(event);
    expect(await post(event)).toEqual({ items: [], reports: [], passedOver: 0 });
    expect(await heard(key)).toHaveLength(1);
  });

  test("a rewritten branch leaves commits behind, and what it keeps stays", async () => {
    const { key } = await building();
    const branch = branchOf(key);
    const kept = commit("Kept");
    const left = commit("Left behind", { after: [kept] });
    const instead = commit("Instead", { after: [kept] });
    await post(pushed(branch, [kept, left]));
    await post(pushed(branch, [instead], { forced: true }));
    const { works } = await codeOf(key);
    const behind = works[0].commits.map(({ subject, leftBehind }) => [subject, leftBehind]);
    expect(Object.fromEntries(behind)).toEqual({
      Kept: false,
      "Left behind": true,
      Instead: false,
    });
    expect(works[0].size).toEqual({ files: 4, insertions: 20, deletions: 6 });
  });

  test("leads to where it can be proposed, as long as the branch is there", async () => {
    const { key } = await building();
    const branch = branchOf(key);
    const url = "https://code.example/ticket-prices";
    await post(pushed(branch, [commit("Once")], { url }));
    await post(pushed(branch, [commit("Again")]));
    expect((await codeOf(key)).works[0].branchUrl).toBe(url);
    const gone = { id: branch, content: { repository: { id: "ticket-prices" } } };
    await post({ ...delivery("branch.deleted", gone), time: "2026-11-23T10:05:00Z" });
    expect((await codeOf(key)).works[0]).toMatchObject({ branchGone: true, branchUrl: null });
  });

  test("a branch of 250 letters with markup is kept as it is", async () => {
    const { key } = await building();
    const branch = `<img src=x onerror=alert(1)>/${key}/`.padEnd(250, "x");
    await post(pushed(branch, [commit("Odd")]));
    expect((await codeOf(key)).works[0].branch).toBe(branch);
  });

  test("a commit under another address is its person's once that is set", async () => {
    const { key } = await building();
    const mail = `${randomUUID()}@home.example`;
    const author = { name: "i.dahl", mail };
    await post(pushed(branchOf(key), [commit("From home", { author })]));
    const by = async () => (await codeOf(key)).works[0].commits[0].by;
    expect(await by()).toEqual({ name: "i.dahl", personId: null });
    const set = { mail, personId: INES.personId, setBy: INES.personId, setAt: Date.now() };
    await database().insert(codeAddress).values(set);
    expect(await by()).toEqual({ name: "Ines Dahl", personId: INES.personId });
  });
});

describe("on main", () => {
  const triggered = async (verb: string, triggers: Trigger[]) => {
    const now = (await runningWorkflow()).transitions.find((t) => t.verb === verb)!;
    await publishChange((w) =>
      changeTransition(w, now.id, { ...now, who: [], requirements: [], followUps: [], triggers }),
    );
  };
  const HAND = "Hand to review";
  const stateOf = async (key: string) => (await readItem(INES, key)).state.name;

  test("a closing word makes the move that the process names, once, also when it is rebased", async () => {
    await triggered(HAND, [{ kind: "commit says done" }]);
    const { id, key } = await building();
    const done = commit(`Keep it. Fixes ${key}`);
    await post(pushed("main", [done], { main: true }));
    await settle();
    expect(await stateOf(key)).toBe("Waiting for review");
    const back = (await readItem(INES, key)).transitions.find(
      ({ toName }) => toName === "Building",
    )!;
    await send(NOOR, id, {
      ...{ kind: "move", to: back.to, answers: { reason: "once more" } },
      from: (await readItem(INES, key)).state.id,
    });
    const rebased = { ...done, id: hashOf(randomUUID()) };
    await post(pushed("main", [rebased], { main: true }));
    await settle();
    expect(await stateOf(key)).toBe("Building");
    expect((await heard(key)).filter((words) => words.includes("says that it is done"))).toEqual([
      `commit ${done.id.slice(0, 8)} on main says that it is done`,
    ]);
    await triggered(HAND, []);
  });

  test("a push is news of what comes to main by it, not of all that is there", async () => {
    const [one, other] = [await building(), await building()];
    const newsOf = async ({ id }: { id: string }) =>
      (
        await database()
          .select({ id: domainEvent.id })
          .from(domainEvent)
          .where(and(eq(domainEvent.itemId, id), eq(domainEvent.kind, "code changed")))
      ).length;
    await post(pushed("main", [commit(`${one.key}: begun`)], { main: true }));
    const before = await newsOf(one);
    expect(before).toBeGreaterThan(0);
    await post(pushed("main", [commit(`${other.key}: begun`)], { main: true }));
    expect([await newsOf(one), await newsOf(other)]).toEqual([before, before]);
    // Work of a branch comes to main with the merge, whose push tells of that alone.
    const branch = branchOf(one.key);
    const work = commit("The rest", { after: [] });
    await post(pushed(branch, [work]));
    const pushedTo = await newsOf(one);
    const merge = commit("Merge", { after: [work] });
    await post(pushed("main", [merge], { main: true }));
    expect(await newsOf(one)).toBe(pushedTo + 1);
  });

  test("without such a move it is marked ready; a mere mention, a branch and old history do nothing", async () => {
    const { id, key } = await building();
    const ready = async () =>
      (await database().select().from(item).where(eq(item.id, id)))[0].readySince !== null;
    await post(pushed("main", [commit(`About ${key}`)], { main: true }));
    await post(pushed(branchOf(key), [commit(`Fixes ${key}`)]));
    const old = commit(`Fixes ${key}`, { authoredAt: "2020-01-01T00:00:00Z" });
    await post(pushed("main", [old], { main: true }));
    expect(await ready()).toBe(false);
    await post(pushed("main", [commit(`Closes ${key}`)], { main: true }));
    expect(await ready()).toBe(true);
    expect((await checkItems()).findings).toEqual([]);
  });

  test("commits of a merged branch are on main with it, and act then", async () => {
    const { key } = await building();
    const branch = branchOf(key);
    const base = commit("Base");
    const work = commit(`Resolves ${key}`, { after: [base] });
    const merge = commit("Merge", { after: [base, work] });
    await post(pushed("main", [base], { main: true }));
    await post(pushed(branch, [work]));
    expect((await codeOf(key)).works[0].commits[0].onMain).toBe(false);
    await post(pushed("main", [merge], { main: true }));
    expect((await codeOf(key)).works[0].commits[0].onMain).toBe(true);
    expect(await heard(key)).toContain(
      `commit ${work.id.slice(0, 8)} on main says that it is done`,
    );
  });

  test("what is taken back says so; taken back itself, it holds again", async () => {
    const { key } = await building();
    const work = commit(`${key}: faster`);
    const revert = commit(`Revert "faster"\n\nThis reverts commit ${work.id}.`, { after: [work] });
    const again = commit(`Revert "Revert"\n\nThis reverts commit ${revert.id}.`, {
      after: [revert],
    });
    await post(pushed("main", [work], { main: true }));
    await post(pushed("main", [revert], { main: true }));
    const found = async () =>
      (await codeOf(key)).mentions.find(({ hash }) => hash === work.id)!.revertedBy;
    expect(await found()).toBe(revert.id);
    expect(await heard(key)).toContain(`commit ${work.id.slice(0, 8)} was taken back on main`);
    await post(pushed("main", [again], { main: true }));
    expect(await found()).toBeNull();
  });
});

const IN_TEST = [
  ...["Ready", "Building", "Waiting for review", "In review", "Waiting for test", "In test"],
];

describe("a change", () => {
  test("belongs to what its branch's commits name, and shows who looked at it", async () => {
    const { key } = await building();
    const branch = fresh("offline");
    const [change, work] = [fresh("ticket-prices/41"), commit(`${key}: keep it`)];
    const by = { name: "Mei Olander", mail: "mei.olander@saltmarsh.example" };
    await post(
      pushed(branch, [work]),
      changeSaid("created", change, { title: "Keep the ticket", branch, head: work.id, behind: 2 }),
      delivery("pipelinerun.finished", { id: "r", content: { outcome: "success" } }, { change }),
      changeSaid("reviewed", change, { by, verdict: "approved", head: work.id }),
    );
    const [shown] = (await codeOf(key)).works;
    expect(shown).toMatchObject({
      branch,
      change: {
        ...{ name: change, title: "Keep the ticket", status: "open", checks: "passed", behind: 2 },
        reviews: [{ by: { name: "Mei Olander" }, verdict: "approved", ofOlder: false }],
      },
    });
    expect(await heard(key)).toEqual([
      `change ${change} was approved in review`,
      `checks of change ${change} passed`,
      `change ${change} was opened`,
      "something was pushed for it",
    ]);
  });

  test("approved at the host counts as an approval of the process, until new commits come where it says so", async () => {
    const demand = (host: "counts" | "counts until new commits" | null) =>
      publishChange((workflow) => ({
        ...workflow,
        transitions: workflow.transitions.map((t) =>
          t.verb === "Pass test"
            ? {
                ...t,
                requirements: [{ kind: "approvals", count: 1, role: null, teamId: null, host }],
              }
            : t,
        ),
      }));
    const inReview = async (by: { name: string; mail: string }) => {
      const id = await itemIn(NOOR, "Seen there", ...IN_TEST);
      const key = await keyOf(id);
      const [branch, change, work] = [branchOf(key), fresh("41"), commit("One")];
      await post(
        pushed(branch, [work]),
        changeSaid("created", change, { branch, head: work.id }),
        changeSaid("reviewed", change, { by, verdict: "approved", head: work.id }),
      );
      const pass = async () => refusalOf(move(NOOR, id, "Ready to deploy"));
      return { id, branch, change, work, pass };
    };
    const ivo = { name: "Ivo", mail: "ivo.sandell@saltmarsh.example" };
    await demand(null);
    expect(await (await inReview(ivo)).pass()).toBe("approvals");
    await demand("counts until new commits");
    const lapsed = await inReview(ivo);
    await post(pushed(lapsed.branch, [commit("Two")]));
    expect(await lapsed.pass()).toBe("approvals");
    // Nobody known, and whoever built it: neither of them counts.
    const stranger = { name: "Odil", mail: "odil@skerrin.example" };
    const builder = { name: "Noor", mail: "noor.bakri@saltmarsh.example" };
    for (const by of [stranger, builder])
      expect(await (await inReview(by)).pass()).toBe("approvals");
    await demand("counts");
    await move(NOOR, lapsed.id, "Ready to deploy");
    // Who sends it back afterwards approves it no more.
    const back = await inReview(ivo);
    await post(
      changeSaid(
        "reviewed",
        back.change,
        { by: ivo, verdict: "sent back", head: back.work.id },
        { time: "2028-01-01T10:00:00Z" },
      ),
    );
    expect(await back.pass()).toBe("approvals");
  });

  test("with new commits, what was said of the ones before does not count any more", async () => {
    const { key } = await building();
    const [branch, change] = [branchOf(key), fresh("41")];
    const [first, second] = [commit("One"), commit("Two")];
    const by = { name: "Mei", mail: "mei.olander@saltmarsh.example" };
    const checked = (id: string, outcome: string, of: string) =>
      delivery("pipelinerun.finished", { id, content: { outcome } }, { change, commit: of });
    await post(
      pushed(branch, [first]),
      changeSaid("created", change, { branch, head: first.id }),
      checked("a", "success", first.id),
      changeSaid("reviewed", change, { by, verdict: "approved", head: first.id }),
      pushed(branch, [second]),
      checked("b", "success", first.id),
    );
    const shown = async () => (await codeOf(key)).works[0].change!;
    expect(await shown()).toMatchObject({ checks: null, reviews: [{ ofOlder: true }] });
    await post(checked("c", "failure", second.id));
    expect((await shown()).checks).toBe("failed");
  });

  test("events in any order come to the same", async () => {
    const orders = [
      [0, 1, 2, 3],
      [3, 2, 1, 0],
      [2, 0, 3, 1],
    ];
    const seen = [];
    for (const order of orders) {
      const { key } = await building();
      const [branch, change, head] = [branchOf(key), fresh("41"), commit("Work")];
      const by = { name: "Mei", mail: "mei.olander@saltmarsh.example" };
      const time = (minute: number) => ({ time: `2027-11-23T10:0${minute}:00Z` });
      const events = [
        pushed(branch, [head], time(0)),
        changeSaid("created", change, { title: "Of old", branch, head: head.id }, time(1)),
        changeSaid("reviewed", change, { by, verdict: "approved", head: head.id }, time(2)),
        changeSaid("merged", change, { title: "Of late", commit: hashOf(change) }, time(3)),
      ];
      for (const at of order) await post(events[at]);
      const view = await readItem(INES, key);
      const [work] = view.code.works;
      seen.push({
        works: view.code.works.length,
        title: work.change?.title,
        status: work.change?.status,
        onBranch: work.branch === branch,
        reviews: work.change?.reviews.map(({ verdict, ofOlder }) => [verdict, ofOlder]),
        known: view.item.outside.changes.map(({ status }) => status),
        opened: work.change?.openedAt,
      });
    }
    expect(seen[0]).toMatchObject({ works: 1, title: "Of late", status: "merged" });
    expect(seen[0].known).toEqual(["merged"]);
    expect(seen[1]).toEqual(seen[0]);
    expect(seen[2]).toEqual(seen[0]);
  });

  test("two repositories name one item: both are shown, each with its own", async () => {
    const { key } = await building();
    await post(
      pushed(branchOf(key), [commit("Prices")]),
      pushed(branchOf(key), [commit("Gates")], { repository: "gate-firmware" }),
    );
    const shown = (await codeOf(key)).works.map((work) => [
      work.repository,
      work.commits.map(({ subject }) => subject),
    ]);
    expect(Object.fromEntries(shown)).toEqual({
      "ticket-prices": ["Prices"],
      "gate-firmware": ["Gates"],
    });
  });
});

test("who may not see a restricted item sees nothing of its code either", async () => {
  const { id, key } = await building();
  await post(pushed(branchOf(key), [commit("Secret")]));
  await send(INES, id, {
    ...{ kind: "edit", changes: { restricted: true } },
    seenVersion: (await readItem(INES, key)).item.version,
  });
  expect(await refusalOf(readItem(IVO, key))).toBe("not found");
});

test("a commit that a comment names by its hash is told with it, to whoever may see its items", async () => {
  const [{ id, key }, secret] = [await building("Talked about"), await building("Secret work")];
  const beginning = (begins: string) => ({ id: begins + hashOf(randomUUID()).slice(9) });
  const [short, other] = ["a41f09c3d", "b52e18d4c"];
  const open = commit("Keep the ticket", beginning(short));
  const hidden = commit(`${secret.key}: in secret`, beginning(other));
  await post(pushed(fresh("any"), [open, hidden]));
  await send(NOOR, id, { kind: "comment", body: `See \`${short}\`, ${other} and 1234abc.` });
  const commitsFor = async (viewer: typeof INES) =>
    (await readItem(viewer, key)).talk.commits as Record<string, { subject: string; by: string }>;
  const told = { repository: "ticket-prices", subject: "Keep the ticket", by: "Ines Dahl" };
  expect((await commitsFor(IVO))[short]).toMatchObject({ ...told, onMain: false, url: null });
  expect(Object.keys(await commitsFor(IVO)).toSorted()).toEqual([short, other].toSorted());
  await send(INES, secret.id, {
    ...{ kind: "edit", changes: { restricted: true } },
    seenVersion: (await readItem(INES, secret.key)).item.version,
  });
  expect(Object.keys(await commitsFor(IVO))).toEqual([short]);
  expect(Object.keys(await commitsFor(INES))).toHaveLength(2);
});

test("the name of the next branch follows the project's pattern and whoever looks", async () => {
  const { key } = await building("Show the ticket: offline!");
  expect((await codeOf(key)).branchName).toBe(`id/${key.toLowerCase()}-show-the-ticket-offline`);
  expect((await readItem(NOOR, key)).code.branchName).toMatch(/^nb\//);
});
