import { execFile } from "node:child_process";
import { randomUUID } from "node:crypto";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { promisify } from "node:util";
import { eq } from "drizzle-orm";
import { database } from "@/db/connection";
import { item } from "@/db/schema";
import { editSource } from "@/server/events/sources";
import { readItem } from "@/server/item/read";
import { tagBody } from "@/core/ship/release/tag";
import { editTimebox } from "@/server/plan/timeboxes";
import { readReleasePage } from "@/server/ship/release/read-release";
import { tagRelease } from "@/server/ship/release/tags";
import { readProjectCode } from "@/server/ship/read-project-code";
import { signEntry } from "../../standins/entry";
import { startCodeStandIn, type CodeStandIn } from "../../standins/code/server";
import { itemIn, refusalOf } from "./setup/board";
import { ARTHUR, INES, NOOR } from "./setup/people";
import { openProductDoor } from "./setup/product-door";
import { givenTestDatabase } from "./setup/test-database";
import { placeConsumersAtTheEnd } from "./setup/unfollowed";

/*
 * The code host that ships with the product, used as anybody uses one: by git over HTTP and by its
 * pages. What it tells is taken in by the product's own door, signed.
 */

givenTestDatabase();
const SECRET = "for tests alone";
const PEOPLE = {
  ines: { name: "Ines Dahl", mail: "ines.dahl@saltmarsh.example" },
  mei: { name: "Mei Olander", mail: "mei.olander@saltmarsh.example" },
};
const run = promisify(execFile);

let root: string;
let work: string;
let sourceId: string;
let host: CodeStandIn;
let door: Awaited<ReturnType<typeof openProductDoor>>;

beforeAll(async () => {
  await placeConsumersAtTheEnd();
  root = mkdtempSync(path.join(tmpdir(), "zigzag-code-"));
  work = mkdtempSync(path.join(tmpdir(), "zigzag-work-"));
  door = await openProductDoor();
  host = await startCodeStandIn({ port: 0, root, secret: SECRET, product: "http://localhost:1" });
  const { id, secret } = await editSource(INES, "TIX", { kind: "add", name: "Host" });
  sourceId = id;
  await as("ines", "/new", { name: "prices" });
  await as("ines", "/prices/targets", {
    address: door.addressOf(id),
    secret: secret!,
  });
});
afterAll(async () => {
  await host.close();
  await door.close();
  for (const folder of [root, work]) rmSync(folder, { recursive: true, force: true });
});

const cookies = new Map<string, string>();

/** Comes in by a link as the product signs it. */
async function cookieOf(who: keyof typeof PEOPLE): Promise<string> {
  const known = cookies.get(who);
  if (known) return known;
  const { name: person, mail } = PEOPLE[who];
  const said = { person, mail, until: String(Date.now() + 60_000), to: "/" };
  const query = new URLSearchParams({ ...said, signed: signEntry(SECRET, said) });
  const answer = await fetch(`${host.address}/enter?${query}`, { redirect: "manual" });
  const cookie = answer.headers.get("set-cookie")!.split(";")[0];
  cookies.set(who, cookie);
  return cookie;
}

/** Sends a form of a page. @returns its status, where it leads, and what it says */
async function as(who: keyof typeof PEOPLE, to: string, fields: Record<string, string> = {}) {
  const answer = await fetch(host.address + to, {
    method: "POST",
    body: new URLSearchParams(fields),
    headers: { cookie: await cookieOf(who) },
    redirect: "manual",
  });
  return { status: answer.status, to: answer.headers.get("location"), body: await answer.text() };
}
const page = async (to: string) => (await fetch(host.address + to)).text();

/** Runs git in a clone, as one of the people does. */
async function git(folder: string, ...args: string[]): Promise<string> {
  const env = { ...process.env, GIT_TERMINAL_PROMPT: "0", GIT_CONFIG_NOSYSTEM: "1", HOME: work };
  const { stdout } = await run("git", ["-C", folder, ...args], { env });
  return stdout;
}

/** A clone of somebody, with their name and their token in it. */
async function cloneOf(who: keyof typeof PEOPLE): Promise<string> {
  const { mail, name } = PEOPLE[who];
  const token = /<pre>([\w-]+)<\/pre>/.exec((await as(who, "/me/token")).body)![1];
  const folder = path.join(mkdtempSync(path.join(work, `${who}-`)), "prices");
  const address = host.address.replace("://", `://${encodeURIComponent(mail)}:${token}@`);
  await git(work, "clone", "--quiet", `${address}/git/prices.git`, folder);
  await git(folder, "config", "user.name", name);
  await git(folder, "config", "user.email", mail);
  return folder;
}

async function commit(folder: string, file: string, text: string, message: string) {
  writeFileSync(path.join(folder, file), text);
  await git(folder, "add", file);
  await git(folder, "commit", "--quiet", "--message", message);
}

/** Waits until something holds. */
async function until<T>(read: () => Promise<T | false | undefined>): Promise<T> {
  for (let tries = 0; tries < 200; tries++) {
    const found = await read();
    if (found) return found;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error("It never came to be.");
}

const building = async (title: string) => {
  const id = await itemIn(NOOR, title, "Ready", "Building");
  const [{ number }] = await database().select().from(item).where(eq(item.id, id));
  return `TIX-${number}`;
};
const codeOf = async (key: string) => (await readItem(INES, key)).code;

let clone: string;

test("an empty repository says which commands fill it, and they do", async () => {
  const commands = /<pre>([^<]*)<\/pre>/.exec(await page("/prices"))![1];
  expect(commands).toContain(`git clone ${host.address}/git/prices.git`);
  clone = await cloneOf("ines");
  await git(clone, "switch", "--quiet", "--create", "main");
  await commit(clone, "README.md", "What this is for\n", "What there is so far");
  await git(clone, "push", "--quiet", "--set-upstream", "origin", "main");
  expect(await page("/prices")).toContain("What there is so far");
});

test("a push needs a token, and one that was ended is none", async () => {
  const bare = mkdtempSync(path.join(work, "nobody-"));
  await git(bare, "clone", "--quiet", `${host.address}/git/prices.git`, "prices");
  await expect(git(path.join(bare, "prices"), "push", "origin", "main:other")).rejects.toThrow();
  const mei = await cloneOf("mei");
  await as("mei", "/me/end");
  await expect(git(mei, "push", "origin", "main:other")).rejects.toThrow();
  expect(await git(clone, "ls-remote", "--heads", "origin")).not.toContain("other");
});

test("from a branch to main: pushed, proposed, sent back, mended, approved, merged, each seen on the item", async () => {
  const key = await building("Prices by zone");
  const { branchName } = await codeOf(key);
  await git(clone, "switch", "--quiet", "--create", branchName);
  await commit(clone, "price.txt", "one\ntwo\n", "Prices by zone");
  await git(clone, "push", "--quiet", "--set-upstream", "origin", branchName);
  const [work] = await until(async () => {
    const { works } = await codeOf(key);
    // That the branch is there is an event of its own, before the one of its commits.
    return works.length > 0 && works[0].commits.length > 0 && works;
  });
  expect(work).toMatchObject({
    ...{ repository: "prices", branch: branchName, change: null },
    size: { files: 1, insertions: 2, deletions: 0 },
    commits: [{ subject: "Prices by zone", by: { personId: "ines" } }],
  });

  const { to } = await as("ines", "/prices/changes", { branch: branchName, title: "Zones" });
  const changed = async () => (await codeOf(key)).works[0].change;
  expect(await until(async () => changed())).toMatchObject({
    ...{ name: "prices/1", title: "Zones", status: "open", behind: 0, mergesCleanly: true },
    url: `${host.address}${to}`,
  });
  const own = await as("ines", `${to}/review`, { verdict: "approved" });
  expect(own.body).toContain("Whoever wrote a change does not review it");
  await as("mei", `${to}/review`, { verdict: "sent back", words: "Three zones, please." });
  await until(async () => (await changed())?.reviews[0]?.verdict === "sent back");

  await commit(clone, "price.txt", "one\ntwo\nthree\n", "Three zones");
  await git(clone, "push", "--quiet");
  await until(async () => (await changed())?.reviews[0].ofOlder);
  await as("mei", `${to}/review`, { verdict: "approved" });
  await until(async () => (await changed())?.reviews[0].verdict === "approved");

  const merged = await as("mei", `${to}/merge`, { message: `Fixes ${key}` });
  expect(merged.status).toBe(303);
  const { history } = await until(async () => {
    const view = await readItem(INES, key);
    return view.history.some(({ words }) => words.includes("says that it is done")) && view;
  });
  expect(await changed()).toMatchObject({ status: "merged" });
  expect((await codeOf(key)).works[0].commits.every(({ onMain }) => onMain)).toBe(true);
  const heard = history.filter(({ kind }) => kind === "reported").map(({ words }) => words);
  expect(heard.filter((words) => words.includes("was merged"))).toHaveLength(1);
});

test("main moves on: what is open says how far it is behind and that it does not merge", async () => {
  const key = await building("Two at one line");
  const branch = `id/${key.toLowerCase()}-two`;
  await git(clone, "switch", "--quiet", "main");
  await git(clone, "pull", "--quiet");
  await git(clone, "switch", "--quiet", "--create", branch);
  await commit(clone, "README.md", "Mine\n", "Mine");
  await git(clone, "push", "--quiet", "--set-upstream", "origin", branch);
  const { to } = await as("ines", "/prices/changes", { branch, title: "Mine" });
  await git(clone, "switch", "--quiet", "main");
  await commit(clone, "README.md", "Theirs\n", "Theirs");
  await git(clone, "push", "--quiet");
  const change = await until(async () => {
    const found = (await codeOf(key)).works[0]?.change;
    return found?.mergesCleanly === false && found;
  });
  expect(change).toMatchObject({ behind: 1, status: "open" });
  const refused = await as("mei", `${to}/merge`);
  expect(refused.body).toContain("It does not merge cleanly");
  await as("ines", `${to}/abandon`);
  await until(async () => (await codeOf(key)).works[0].change?.status === "abandoned");
});

test("while the product is away events wait, and arrive in their order once it is back; sent again they change nothing", async () => {
  const key = await building("Through the outage");
  const branch = `id/${key.toLowerCase()}-outage`;
  door.goAway(true);
  await git(clone, "switch", "--quiet", "--create", branch, "main");
  await commit(clone, "a.txt", "a\n", "First");
  await git(clone, "push", "--quiet", "--set-upstream", "origin", branch);
  await commit(clone, "a.txt", "b\n", "Second");
  await git(clone, "push", "--quiet");
  await until(async () => (await page("/sent")).includes("waits, tried"));
  expect((await codeOf(key)).works).toEqual([]);
  door.goAway(false);
  const works = await until(async () => {
    const found = (await codeOf(key)).works;
    return found[0]?.commits.length === 2 && found;
  });
  expect(works[0].commits.map(({ subject }) => subject)).toEqual(["Second", "First"]);
  const before = (await readItem(INES, key)).history.length;
  const last = host.memory.state.events.at(-1)!;
  await as("ines", `/sent/${last.id}`);
  await until(async () => last.arrivedAt !== null && last.said.includes("taken"));
  expect((await readItem(INES, key)).history).toHaveLength(before);
});

test("a branch that is pushed anew, a file of bytes and a deleted branch are told as they are", async () => {
  const key = await building("Odd things");
  const branch = `id/${key.toLowerCase()}-odd`;
  await git(clone, "switch", "--quiet", "--create", branch, "main");
  writeFileSync(path.join(clone, "picture.bin"), Buffer.from([0, 1, 2, 0, 255]));
  await git(clone, "add", "picture.bin");
  await git(clone, "commit", "--quiet", "--message", "A picture \u001e <b>of</b> it");
  await git(clone, "push", "--quiet", "--set-upstream", "origin", branch);
  await git(clone, "commit", "--quiet", "--amend", "--message", "Another");
  await git(clone, "push", "--quiet", "--force");
  const works = await until(async () => {
    const found = (await codeOf(key)).works;
    return found[0]?.commits.length === 2 && found;
  });
  const behind = works[0].commits.map(({ subject, leftBehind }) => [subject, leftBehind]);
  expect(Object.fromEntries(behind)).toEqual({
    "A picture \u001e <b>of</b> it": true,
    Another: false,
  });
  expect(works[0].size).toEqual({ files: 1, insertions: 0, deletions: 0 });
  await git(clone, "push", "--quiet", "origin", `:${branch}`);
  await until(async () => (await codeOf(key)).works[0].branchGone);
  expect((await readProjectCode(INES, "TIX")).branches.map((one) => one.branch)).not.toContain(
    branch,
  );
});

describe("a release is tagged at the product's request", () => {
  const release = randomUUID();
  const at = { key: "TIX", release };
  const tagsOf = async () => (await readReleasePage(INES, "TIX", release)).tags;
  const placeOf = async () =>
    (await readReleasePage(INES, "TIX", release)).taggable.filter(
      ({ repository }) => repository === "prices",
    );

  test("once its host takes requests; it stands there when the host says so", async () => {
    await editTimebox(INES, "TIX", {
      kind: "release",
      release: { id: release, name: "Crossing 99", dueOn: null, released: false, why: "" },
    });
    expect(await placeOf()).toEqual([]);
    await editSource(INES, "TIX", { kind: "asks", id: sourceId, asksAt: `${host.address}/ask` });
    const [place] = await placeOf();
    const head = (await git(clone, "rev-parse", "origin/main")).trim();
    expect([place.commit, place.live]).toEqual([head, false]);
    const asked = { name: "crossing-99", in: [place.repositoryId] };
    expect(await refusalOf(tagRelease(ARTHUR, at, asked))).toBe("not allowed");
    expect(await tagRelease(INES, at, asked)).toEqual({ refused: [] });
    await until(async () => (await tagsOf())[0].tagAt !== null);
    await git(clone, "fetch", "--quiet", "--tags");
    expect((await git(clone, "rev-parse", "crossing-99")).trim()).toBe(head);
    expect(await page("/prices")).toContain("crossing-99");
  });

  test("not twice at different commits: the host says why, and that stands there", async () => {
    const [place] = await placeOf();
    await git(clone, "switch", "--quiet", "main");
    await git(clone, "pull", "--quiet");
    await commit(clone, "README.md", "More of it\n", "More of it");
    await git(clone, "push", "--quiet");
    await until(async () => (await placeOf())[0].commit !== place.commit);
    const asked = { name: "crossing-99", in: [place.repositoryId] };
    const { refused } = await tagRelease(INES, at, asked);
    expect(refused).toEqual([
      { repository: "prices", why: "crossing-99 is the tag of another commit." },
    ]);
    expect((await tagsOf()).map((tag) => [tag.refused, tag.tagAt])).toEqual([
      ["crossing-99 is the tag of another commit.", null],
    ]);
  });

  test.each(["--force", "a b", "a..b", "x.lock", ""])("%j is no tag", (name) => {
    expect(tagBody.safeParse({ name, in: [release] }).success).toBe(false);
  });

  test("nobody else's request is taken", async () => {
    const body = JSON.stringify({ data: { customData: { repository: "prices", tag: "mine" } } });
    const answer = await fetch(`${host.address}/ask`, { method: "POST", body });
    expect(answer.status).toBe(401);
  });
});

describe("who may come in", () => {
  const enter = (said: Parameters<typeof signEntry>[1], signed = signEntry(SECRET, said)) =>
    fetch(`${host.address}/enter?${new URLSearchParams({ ...said, signed })}`, {
      redirect: "manual",
    });
  const said = () => ({
    ...{ person: "Ines Dahl", mail: PEOPLE.ines.mail, to: "/prices" },
    until: String(Date.now() + 60_000 + Math.random()),
  });

  test("by a link that the product signed, once and in time", async () => {
    const link = said();
    expect((await enter(link)).headers.get("location")).toBe("/prices");
    expect((await enter(link)).headers.get("set-cookie")).toContain("Max-Age=0");
    const late = { ...said(), until: String(Date.now() - 1) };
    expect((await enter(late)).headers.get("set-cookie")).toContain("Max-Age=0");
    const forged = await enter(said(), signEntry("another secret", said()));
    expect(forged.headers.get("set-cookie")).toContain("Max-Age=0");
    const elsewhere = await enter({ ...said(), to: "//evil.example/" });
    expect(elsewhere.headers.get("location")).toBe("/");
  });

  test("nobody does anything without being in, or from another site", async () => {
    const post = (headers: Record<string, string>) =>
      fetch(`${host.address}/new`, {
        method: "POST",
        body: new URLSearchParams({ name: "mine" }),
        headers,
      });
    expect(await (await post({})).text()).toContain("Come in by the product first.");
    const cookie = await cookieOf("ines");
    const other = await post({ cookie, origin: "http://evil.example" });
    expect(await other.text()).toContain("asked from another site");
    expect(await page("/")).not.toContain(">mine<");
  });

  test.each(["/git/..%2f..%2fetc.git/info/refs", "/git/prices.git/config", "/git/prices.git/HEAD"])(
    "%s is nothing that is served",
    async (where) => {
      expect((await fetch(host.address + where)).status).toBe(404);
    },
  );

  test("what somebody wrote is no markup", async () => {
    expect(await page("/sent")).not.toContain("<b>of</b>");
  });
});
