import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { database } from "@/db/connection";
import { item } from "@/db/schema";
import { readDesignHistory } from "@/server/workflow/design-history";
import { readItem } from "@/server/item/read";
import { setAuthor } from "@/server/ship/authors";
import { readBranchName } from "@/server/ship/branch-name";
import { readProjectCode } from "@/server/ship/read-project-code";
import { editShipSettings } from "@/server/ship/settings";
import { readReviewQueue } from "@/server/ship/review-queue";
import { itemIn, move, refusalOf, send } from "./setup/board";
import { changeSaid, commit, pushed } from "./setup/code-host";
import { delivery, post } from "./setup/events";
import { INES, IVO, NOOR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const keyed = async (title: string) => {
  const id = await itemIn(NOOR, title, "Ready", "Building");
  const [{ number }] = await database().select().from(item).where(eq(item.id, id));
  return { id, key: `TIX-${number}` };
};
const fresh = (words: string) => `${words}-${randomUUID().slice(0, 6)}`;
const onBranch = (works: { branch: string | null }[], branch: string) =>
  works.filter((work) => work.branch === branch);

test("a branch stands there until it is proposed, a change until it is merged", async () => {
  const { key } = await keyed("On its way");
  const [branch, change, work] = [fresh(`id/${key.toLowerCase()}`), fresh("42"), commit("Work")];
  await post(pushed(branch, [work]));
  const before = await readProjectCode(INES, "TIX");
  expect(onBranch(before.branches, branch)).toMatchObject([{ items: [{ key }], change: null }]);

  await post(changeSaid("created", change, { branch, head: work.id }));
  const open = await readProjectCode(INES, "TIX");
  expect(onBranch(open.branches, branch)).toEqual([]);
  expect(onBranch(open.open, branch)).toMatchObject([{ items: [{ key }] }]);

  await post(
    changeSaid("merged", change, {}, { time: "2027-11-23T12:00:00Z" }),
    pushed("main", [commit("m", { after: [work] })], { main: true }),
  );
  const after = await readProjectCode(INES, "TIX");
  expect(onBranch([...after.open, ...after.branches], branch)).toEqual([]);
  expect(onBranch(after.merged, branch)).toHaveLength(1);
});

test("a branch that is merged without a change, or gone, does not stand there any more", async () => {
  const [merged, gone] = [fresh("merged"), fresh("gone")];
  const work = commit("Work");
  await post(pushed(merged, [work]), pushed(gone, [commit("Other")]));
  const branches = async () => (await readProjectCode(INES, "TIX")).branches;
  expect(onBranch(await branches(), merged)).toHaveLength(1);
  await post(pushed("main", [commit("m", { after: [work] })], { main: true }));
  expect(onBranch(await branches(), merged)).toEqual([]);
  expect(onBranch(await branches(), gone)).toHaveLength(1);
  const content = { repository: { id: "ticket-prices" } };
  await post({
    ...delivery("branch.deleted", { id: gone, content }),
    time: "2027-11-23T12:00:00Z",
  });
  expect(onBranch(await branches(), gone)).toEqual([]);
});

test("what belongs to a hidden item is left out and counted, for others it is there", async () => {
  const { id, key } = await keyed("Secret");
  const branch = fresh(`id/${key.toLowerCase()}-secret`);
  await post(pushed(branch, [commit("Secret work")]));
  const { version } = (await readItem(INES, key)).item;
  const before = (await readProjectCode(IVO, "TIX")).hidden;
  await send(INES, id, { kind: "edit", seenVersion: version, changes: { restricted: true } });
  const seen = await readProjectCode(IVO, "TIX");
  expect(JSON.stringify(seen)).not.toContain(branch);
  expect(seen.hidden).toBe(before + 1);
  expect(onBranch((await readProjectCode(INES, "TIX")).branches, branch)).toHaveLength(1);
});

describe("how code goes", () => {
  const PATTERN = "{type}/{key}";

  test("is set by leads, told in the history, and holds for the next branch", async () => {
    const { key } = await keyed("Anything");
    expect(await refusalOf(editShipSettings(NOOR, "TIX", { branchPattern: PATTERN }))).toBe(
      "not allowed",
    );
    await editShipSettings(INES, "TIX", { branchPattern: PATTERN, closingWords: ["done"] });
    expect(await readBranchName(NOOR, key)).toEqual({ branchName: `story/${key.toLowerCase()}` });
    expect((await readItem(NOOR, key)).code.branchName).toBe(`story/${key.toLowerCase()}`);
    const [{ said, differences }] = (await readDesignHistory(INES, "TIX")).changes;
    expect(said).toBe("changed how it goes through the code host");
    expect(differences.map(({ what, new: now }) => [what, now])).toEqual([
      ["names of branches", PATTERN],
      ["closing words", "done"],
    ]);
  });
});

describe("who commits", () => {
  test("is named by a lead, once, and is nobody's who signs in with it", async () => {
    const mail = `${randomUUID()}@home.example`;
    await post(pushed(fresh("from-home"), [commit("One", { author: { name: "n", mail } })]));
    const strangers = async () =>
      (await readProjectCode(INES, "TIX")).strangers.filter((one) => one.mail === mail);
    expect(await strangers()).toEqual([{ mail, name: "n", commits: 1 }]);
    const set = (viewer: typeof INES, personId: string | null, of = mail) =>
      setAuthor(viewer, "TIX", { mail: of, personId });
    expect(await refusalOf(set(NOOR, "noor"))).toBe("not allowed");
    expect(await refusalOf(set(INES, "nobody"))).toBe("invalid");
    expect(await refusalOf(set(INES, "noor", "ivo.sandell@saltmarsh.example"))).toBe("invalid");
    await set(INES, "noor");
    expect(await strangers()).toEqual([]);
    await set(INES, null);
    expect(await strangers()).toHaveLength(1);
    expect((await readProjectCode(NOOR, "TIX")).strangers).toEqual([]);
  });
});

test("the demo's code agrees with its items: what is merged is on main, what is open has its head", async () => {
  for (const key of ["TIX", "GATE", "TIDE"]) {
    const { open, merged, heard } = await readProjectCode(INES, key);
    expect(heard).toBe(true);
    expect(merged.length).toBeGreaterThan(0);
    for (const work of merged) expect(work.commits.every(({ onMain }) => onMain)).toBe(true);
    for (const work of open) {
      expect(work.items).toHaveLength(1);
      expect(work.commits.some(({ onMain }) => onMain)).toBe(false);
    }
  }
});

describe("what waits for a review", () => {
  const rowOf = async (viewer: typeof INES, key: string) =>
    (await readReviewQueue(viewer, "TIX")).rows.find((row) => row.key === key);

  test("stands there from being handed on until it is passed, with its work, and is never offered to its writers", async () => {
    const { id, key } = await keyed("To be read");
    expect(await rowOf(INES, key)).toBeUndefined();
    const branch = fresh(`id/${key.toLowerCase()}`);
    const ivo = { name: "Ivo Sandell", mail: "ivo.sandell@saltmarsh.example" };
    await post(pushed(branch, [commit("Work", { author: ivo })]));
    await move(NOOR, id, "Waiting for review", {});
    const row = (await rowOf(INES, key))!;
    expect(row).toMatchObject({
      ...{ stateName: "Waiting for review", begun: false, days: 1, reviewer: null },
      ...{ builder: "Noor Bakri", works: [{ branch }] },
    });
    const offered = row.offered.map(({ id: who }) => who);
    expect(offered.length).toBeGreaterThan(0);
    for (const writer of ["noor", "ivo"]) expect(offered).not.toContain(writer);
  });

  test("what somebody may not see is not in it, and still counts for whoever reads it", async () => {
    const { id, key } = await keyed("Read in secret");
    await move(NOOR, id, "Waiting for review", {});
    const [before] = (await rowOf(INES, key))!.offered;
    const { version } = (await readItem(INES, key)).item;
    const changes = { restricted: true, reviewerId: before.id };
    await send(INES, id, { kind: "edit", seenVersion: version, changes });
    expect(await rowOf(IVO, key)).toBeUndefined();
    expect((await rowOf(INES, key))!.reviewer?.id).toBe(before.id);
    const { key: other, id: otherId } = await keyed("Another");
    await move(NOOR, otherId, "Waiting for review", {});
    const after = (await rowOf(IVO, other))!.offered.find(({ id: who }) => who === before.id);
    const waiting = (why: string) => Number(/^(\d+) to review/.exec(why)?.[1] ?? 0);
    expect(waiting(after!.why)).toBe(waiting(before.why) + 1);
  });

  test("how long reviews take is known from the demo's changes", async () => {
    const { firstLook, merged } = await readReviewQueue(INES, "TIX");
    expect(firstLook!.of).toBeGreaterThan(20);
    expect(firstLook!.median).toBeGreaterThan(0);
    expect(merged!.median).toBeGreaterThanOrEqual(firstLook!.median);
  });
});
