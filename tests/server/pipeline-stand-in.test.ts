import { execFile } from "node:child_process";
import { createHmac, randomUUID } from "node:crypto";
import { chmodSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { promisify } from "node:util";
import { eq } from "drizzle-orm";
import { v7 as newId } from "uuid";
import { database } from "@/db/connection";
import { item } from "@/db/schema";
import { editSource } from "@/server/events/sources";
import { readItem } from "@/server/item/read";
import { askPipeline } from "@/server/ship/ask-pipeline";
import { editEnvironments } from "@/server/ship/environments";
import { readProjectCode } from "@/server/ship/read-project-code";
import { readWhatIsWhere } from "@/server/ship/read-what-is-where";
import { startCodeStandIn, type CodeStandIn } from "../../standins/code/server";
import { startPipelineStandIn, type PipelineStandIn } from "../../standins/pipeline/server";
import { itemIn, refusalOf } from "./setup/board";
import { INES, NOOR } from "./setup/people";
import { openProductDoor } from "./setup/product-door";
import { givenTestDatabase } from "./setup/test-database";
import { placeConsumersAtTheEnd } from "./setup/unfollowed";

/*
 * The pipeline that ships with the product, behind the code host that does: what is pushed is checked by
 * the repository's own scripts, what comes to main is built and deployed, and the product knows of it by
 * signed events alone.
 */

givenTestDatabase();
const MEMBER = { name: "Ines Dahl", mail: "ines.dahl@saltmarsh.example" };
const run = promisify(execFile);
const TEST = newId();
const LIVE = newId();

let root: string;
let host: CodeStandIn;
let standIn: PipelineStandIn;
let door: Awaited<ReturnType<typeof openProductDoor>>;
let clone: string;

beforeAll(async () => {
  await placeConsumersAtTheEnd();
  root = mkdtempSync(path.join(tmpdir(), "zigzag-pipeline-"));
  door = await openProductDoor();
  const settings = { port: 0, root, secret: "for tests alone", product: null };
  host = await startCodeStandIn(settings);
  standIn = await startPipelineStandIn({
    ...{ ...settings, code: host.address },
    limits: { longestMs: 20_000, mostBytes: 4_000 },
  });
  host.pipelineIsAt(standIn.address);
  const code = await editSource(INES, "TIX", { kind: "add", name: "Host" });
  const asksAt = `${standIn.address}/ask`;
  const pipeline = await editSource(INES, "TIX", { kind: "add", name: "Pipeline", asksAt });
  await editEnvironments(INES, "TIX", {
    environments: [
      {
        id: TEST,
        name: "quay test",
        address: "https://test.example/{key}",
        live: false,
        freezes: [],
      },
      { id: LIVE, name: "quay live", address: "", live: true, freezes: [] },
    ],
  });
  await run("git", ["init", "--quiet", "--bare", "--initial-branch=main", `${root}/prices.git`]);
  const hostSecret = standIn.pipeline.follow("prices", [
    { name: "quay test", automatic: true },
    { name: "quay live", automatic: false },
  ]);
  host.memory.state.targets.push(
    { repository: "prices", address: door.addressOf(code.id), secret: code.secret! },
    { repository: "prices", address: "pipeline:/events/prices", secret: hostSecret },
  );
  standIn.memory.state.targets.push({
    ...{ repository: "prices", address: door.addressOf(pipeline.id), secret: pipeline.secret! },
  });
  clone = path.join(root, "clone");
  const address = host.address.replace(
    "://",
    `://${encodeURIComponent(MEMBER.mail)}:${host.host.makeToken(MEMBER)}@`,
  );
  await run("git", ["clone", "--quiet", `${address}/git/prices.git`, clone]);
  await git("config", "user.name", MEMBER.name);
  await git("config", "user.email", MEMBER.mail);
  await git("switch", "--quiet", "--create", "main");
});
afterAll(async () => {
  await standIn.close();
  await host.close();
  await door.close();
  rmSync(root, { recursive: true, force: true });
});

/** Git talks to the code host, which runs in this process: nothing waits for it with its hands full. */
const git = async (...args: string[]) => (await run("git", ["-C", clone, ...args])).stdout;

/** Commits scripts of the pipeline's, and pushes them. */
async function push(message: string, scripts: Record<string, string>, branch = "main") {
  mkdirSync(path.join(clone, ".pipeline"), { recursive: true });
  for (const [name, text] of Object.entries(scripts)) {
    writeFileSync(path.join(clone, ".pipeline", name), `#!/bin/sh\n${text}\n`);
    chmodSync(path.join(clone, ".pipeline", name), 0o755);
  }
  await git("add", ".");
  await git("commit", "--quiet", "--allow-empty", "--message", message);
  await git("push", "--quiet", "origin", branch);
  return (await git("rev-parse", "HEAD")).trim();
}

/** Waits until something holds. */
async function until<T>(read: () => Promise<T | false | undefined> | T | false | undefined) {
  for (let tries = 0; tries < 400; tries++) {
    const found = await read();
    if (found) return found;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error("It never came to be.");
}

const runsOf = (commit: string, kind = "check") =>
  standIn.memory.state.runs.find(
    (one) => one.commit === commit && one.kind === kind && one.endedAt !== null,
  );
const logOf = async (commit: string, kind = "check") => {
  const { id } = await until(() => runsOf(commit, kind));
  return (await fetch(`${standIn.address}/runs/${id}`)).text();
};
const building = async () => {
  const id = await itemIn(NOOR, "Prices by zone", "Ready", "Building");
  const [{ number }] = await database().select().from(item).where(eq(item.id, id));
  return `TIX-${number}`;
};
const whereIs = async (key: string) =>
  (await readItem(INES, key)).code.environments.map(({ there }) => there);
/** The demo's own repository has a main too. */
const mainState = async () =>
  (await readProjectCode(INES, "TIX")).mains.find(({ repository }) => repository === "prices")!;
const environments = async () => (await readWhatIsWhere(INES, "TIX")).environments;
/** Waits until an item is on test. @returns the build that is there then */
async function onTest(key: string): Promise<string> {
  await until(async () => (await whereIs(key))[0] === "all");
  return (await environments())[0].now[0].build!;
}
const ask = (build: string, more: object = {}) => ({
  ...{ id: newId(), kind: "deploy" as const, repository: "prices", build, environmentId: LIVE },
  ...{ inFreeze: false, ...more },
});

test("what comes to main is checked, built, and deployed to where it goes by itself", async () => {
  const key = await building();
  const commit = await push(`${key}: prices`, {
    check: "echo checked",
    deploy: 'echo "to $1: $BUILD"',
  });
  await until(async () => (await whereIs(key))[0] === "all");
  expect(await whereIs(key)).toEqual(["all", "none"]);
  const [test] = await environments();
  expect(test.now).toMatchObject([{ repository: "prices", build: "1", commit }]);
  expect(await logOf(commit, "deploy")).toContain("to quay test: 1");
  expect(await mainState()).toMatchObject({
    repository: "prices",
    clean: true,
    title: `${key}: prices`,
  });
});

test("what fails its check breaks main, and is not built", async () => {
  const commit = await push("A price that is none", { check: "echo three is not four; exit 3" });
  expect(await logOf(commit)).toContain("three is not four");
  const main = await until(async () => {
    const state = await mainState();
    return !state.clean && state;
  });
  expect(main.title).toBe("A price that is none");
  expect(standIn.memory.builds("prices")).toHaveLength(1);
  await push("Mended", { check: "exit 0" });
  await until(async () => (await mainState()).clean);
});

test("a script has no secret of the product, no rights, and an end", async () => {
  process.env.PIPELINE_TEST_SECRET = "nobody reads this";
  await git("switch", "--quiet", "--create", "odd");
  const said = await push("Odd", { check: "env; id -u; yes | head -c 20000" }, "odd");
  const log = await logOf(said);
  expect(log).not.toContain("nobody reads this");
  expect(log).toContain("the rest is not kept");
  if (process.getuid?.() === 0) expect(log).toContain("65534");
  delete process.env.PIPELINE_TEST_SECRET;
  await git("switch", "--quiet", "main");
});

test("the product asks for a deployment, and knows nothing of it before the event", async () => {
  const key = await building();
  await push(`${key}: for live`, {});
  const build = await onTest(key);
  standIn.memory.state.failing.push({ repository: "prices", what: "deploy quay live" });
  expect(await askPipeline(INES, "TIX", ask(build))).toEqual({ refused: null });
  const failed = await until(async () => {
    const [, live] = await environments();
    return live.history.find(({ outcome }) => outcome === "failed") && live;
  });
  expect(failed.now).toEqual([]);
  expect(await whereIs(key)).toEqual(["all", "none"]);
  const again = ask(build);
  await askPipeline(INES, "TIX", again);
  // Asked twice by a retry, it is done once.
  await askPipeline(INES, "TIX", again);
  await until(async () => (await whereIs(key))[1] === "all");
  const [, live] = await environments();
  expect(live.asked).toEqual([]);
  expect(live.history.filter(({ outcome }) => outcome === "deployed")).toHaveLength(1);
  expect(live.now[0].by).toEqual({ name: "Ines Dahl", personId: "ines" });
});

test("and for going back to an older build", async () => {
  const key = await building();
  await push(`${key}: not good`, {});
  const before = (await environments())[1].now[0].build!;
  const build = await onTest(key);
  await askPipeline(INES, "TIX", ask(build));
  await until(async () => (await whereIs(key))[1] === "all");
  await askPipeline(INES, "TIX", ask(before, { kind: "roll back" }));
  await until(async () => (await whereIs(key))[1] === "none");
  expect((await environments())[1].now[0]).toMatchObject({ outcome: "rolled back", build: before });
});

test("it refuses in words what it cannot do, and nobody else is heard", async () => {
  const { repository } = standIn.memory.state.followed[0];
  standIn.memory.state.followed[0].environments = [{ name: "quay test", automatic: true }];
  const [build] = standIn.memory.builds(repository);
  const { refused } = await askPipeline(INES, "TIX", ask(build.name));
  expect(refused).toBe("prices has no environment quay live.");
  expect((await environments())[1].asked).toMatchObject([{ refused }]);
  expect(await refusalOf(askPipeline(INES, "TIX", ask("999")))).toBe("not found");
  const observer = askPipeline(NOOR, "TIDE", ask(build.name));
  expect(await refusalOf(observer)).toMatch(/not (found|allowed)/);

  const body = JSON.stringify({ type: "dev.cdeventsx.zigzag-request.deploy.0.1.0", data: {} });
  const timestamp = String(Math.floor(Date.now() / 1000));
  const forged = createHmac("sha256", "another").update(`x.${timestamp}.${body}`).digest("base64");
  const answer = await fetch(`${standIn.address}/ask`, {
    method: "POST",
    body,
    headers: {
      ...{ "webhook-id": "x", "webhook-timestamp": timestamp },
      "webhook-signature": `v1,${forged}`,
    },
  });
  expect(answer.status).toBe(401);
});

test("frozen days are said before anything is asked", async () => {
  const today = new Date().toISOString().slice(0, 10);
  const [test, live] = (await environments()).map(({ id, name, address, live: isLive }) => ({
    ...{ id, name, address, live: isLive, freezes: [] },
  }));
  const freezes = [{ id: randomUUID(), from: today, until: today, why: "full boats" }];
  await editEnvironments(INES, "TIX", { environments: [test, { ...live, freezes }] });
  const [build] = standIn.memory.builds("prices");
  expect(await refusalOf(askPipeline(INES, "TIX", ask(build.name)))).toBe("invalid");
  const answered = await askPipeline(INES, "TIX", ask(build.name, { inFreeze: true }));
  expect(answered.refused).toBe("prices has no environment quay live.");
});
