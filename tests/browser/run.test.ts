import { execFileSync, spawn, type ChildProcess } from "node:child_process";
import { mkdtempSync, readFileSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { createTestDatabase } from "../server/setup/test-database";
import { BUILT } from "./setup/application";
import { cookiesOf } from "./setup/session";

/*
 * What bin/start hands over to when everything is set up: one process that looks after all others.
 */

interface Running {
  head: ChildProcess;
  said: () => string;
  address: string;
  data: string;
}
const started: Running[] = [];
const drops: (() => Promise<void>)[] = [];
afterAll(async () => {
  for (const { head } of started) head.kill("SIGKILL");
  for (const drop of drops) await drop();
});

const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

async function until<T>(what: () => Promise<T | null> | T | null, ms = 120_000): Promise<T> {
  for (const end = Date.now() + ms; Date.now() < end; await wait(50)) {
    const found = await what();
    if (found) return found;
  }
  throw new Error("it did not happen");
}

async function run(): Promise<Running> {
  const database = await createTestDatabase();
  drops.push(database.drop);
  const data = mkdtempSync(path.join(os.tmpdir(), "zigzag-run-"));
  const head = spawn(process.execPath, [path.join(BUILT, "run.cjs")], {
    cwd: path.resolve(__dirname, "../.."),
    env: {
      ...process.env,
      DATABASE_URL: database.url,
      ZIGZAG_DATA: data,
      NEXT_DIST_DIR: ".next-test",
      NODE_ENV: "production",
      LOG_LEVEL: "info",
      BETTER_AUTH_SECRET: "tests-only-secret-of-more-than-32-letters-0123456789",
      PORT: undefined,
      MAIL_HOST: undefined,
      ZIGZAG_CLUSTER: undefined,
    },
    stdio: ["ignore", "pipe", "pipe"],
  });
  let text = "";
  for (const stream of [head.stdout!, head.stderr!])
    stream.on("data", (part: Buffer) => (text += part.toString()));
  const address = await until(() => /is open at (\S+)/.exec(text)?.[1] ?? null);
  const running = { head, said: () => text, address, data };
  started.push(running);
  return running;
}

/** The processes that a head has started, by what they run. */
function childrenOf({ head }: Running): { pid: number; program: string }[] {
  const rows = execFileSync("ps", ["-eo", "pid=,ppid=,args="], { encoding: "utf8" })
    .trim()
    .split("\n")
    .map((r) => r.trim().split(/\s+/));
  return rows
    .filter((r) => r[1] === String(head.pid))
    .map((r) => ({ pid: Number(r[0]), program: path.basename(r.at(-1)!) }));
}

const health = async ({ address }: Running) =>
  (await (await fetch(`${address}/api/health`)).json()) as { worker: string; instance: string };
const isGone = (pid: number) => {
  try {
    process.kill(pid, 0);
    return readFileSync(`/proc/${pid}/status`, "utf8").includes("State:\tZ");
  } catch {
    return true;
  }
};

test("two at once take ports of their own, each answers as itself; a dead process is started again where it stood, and TERM leaves nothing", async () => {
  const [one, two] = await Promise.all([run(), run()]);
  expect(one.address).not.toBe(two.address);
  await until(
    async () => (await health(one)).worker === "up" && (await health(two)).worker === "up",
  );
  const [first, second] = [await health(one), await health(two)];
  expect(first.instance).not.toBe(second.instance);

  // The worker, then the application, die without a word.
  for (const program of [
    "worker.cjs",
    "serve.cjs",
    "mail-stand-in.cjs",
    "code-stand-in.cjs",
    "pipeline-stand-in.cjs",
  ]) {
    const before = childrenOf(one).find((c) => c.program === program)!;
    process.kill(before.pid, "SIGKILL");
    const after = await until(
      () => childrenOf(one).find((c) => c.program === program && c.pid !== before.pid) ?? null,
    );
    expect(after.pid).not.toBe(before.pid);
  }
  expect(
    await until(async () =>
      (await fetch(`${one.address}/sign-in`).catch(() => null))?.ok ? true : null,
    ),
  ).toBe(true);
  expect((await health(one)).instance).toBe(first.instance);
  expect((await health(two)).instance).toBe(second.instance);

  // The code host stands where it stood, and is another one than its neighbour's.
  const codeOf = (of: Running) => /Code is kept at (\S+)/.exec(of.said())![1];
  expect(codeOf(one)).not.toBe(codeOf(two));
  const kept = await until(() => fetch(codeOf(one)).catch(() => null));
  expect(await kept.text()).toContain("Repositories");
  // And so does the pipeline.
  const pipelineOf = (of: Running) => /The pipeline is at (\S+)/.exec(of.said())![1];
  expect(pipelineOf(one)).not.toBe(pipelineOf(two));
  const working = await until(() => fetch(pipelineOf(one)).catch(() => null));
  expect(await working.text()).toContain("Pipeline of the quay");

  // Mail still finds its way from the mailbox to the product: both ends stand where they stood.
  const mailbox = /mailbox at (\S+)/.exec(one.said())![1];
  const form = new FormData();
  for (const [name, value] of Object.entries({
    from: "anna@post.saltmarsh.example",
    to: "tickets@in.saltmarsh.example",
    subject: "After the storm",
    text: "words",
  }))
    form.set(name, value);
  const sent = await until(async () => {
    const answer = await fetch(`${mailbox}/write`, {
      method: "POST",
      body: form,
      redirect: "manual",
    }).catch(() => null);
    return answer?.status === 303 ? answer : null;
  });
  expect(sent.status).toBe(303);
  // And who looks after the mailbox is told so.
  const cookie = await cookiesOf(one.address, "Ines Dahl");
  const view = await fetch(`${one.address}/api/projects/TIX/mailbox`, {
    headers: { cookie: cookie.join("; ") },
  });
  expect(await view.json()).toMatchObject({ takes: true, standIn: mailbox });

  const pids = childrenOf(one).map((c) => c.pid);
  expect(pids).toHaveLength(5);
  const ended = new Promise<number | null>((resolve) =>
    one.head.once("exit", (code) => resolve(code)),
  );
  one.head.kill("SIGTERM");
  expect(await ended).toBe(0);
  expect(pids.filter((pid) => !isGone(pid))).toEqual([]);
  expect((await health(two)).instance).toBe(second.instance);
});

test("when the head itself is killed nothing runs on without it", async () => {
  const two = started.find(({ head }) => head.exitCode === null)!;
  const pids = childrenOf(two).map((c) => c.pid);
  expect(pids).toHaveLength(5);
  two.head.kill("SIGKILL");
  await until(() => pids.every(isGone));
});

test("what never reaches a page is answered in words: strange addresses, too much at once", async () => {
  const three = await run();
  for (const strange of ["/%ED%A0%80", "/p/%00", "/api/items/%", "/p/TIX/items/%C0%80"]) {
    const answer = await fetch(three.address + strange, { headers: { accept: "text/html" } });
    expect([strange, answer.status]).toEqual([strange, 404]);
    expect(await answer.text()).toContain("There is no such address.");
  }
  const program = await fetch(`${three.address}/api/items/%ED%A0%80`);
  expect([program.status, program.headers.get("content-type")]).toEqual([
    404,
    "application/problem+json",
  ]);
  const large = await fetch(`${three.address}/api/auth/sign-in/email`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: "x".repeat(17 * 1024),
  });
  expect(large.status).toBe(413);
  expect((await fetch(`${three.address}/_next/image?url=%2Ficon.svg&w=64&q=75`)).status).toBe(404);
  const closed = new Promise<void>((resolve) => three.head.once("exit", () => resolve()));
  three.head.kill("SIGTERM");
  await closed;
});
