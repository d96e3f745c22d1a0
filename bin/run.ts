import { randomBytes, randomUUID } from "node:crypto";
import { closeSync, mkdirSync, openSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { execFile } from "node:child_process";
import path from "node:path";
import { keepRunning, type Kept } from "./keep-running";

/*
 * Runs the product: the application, the worker and, where no mail server is named, the mailbox
 * that stands in for one. bin/start has set everything up and hands over to this. A process that
 * dies is started again with growing pauses while the others go on; so is the database server where
 * it is our own. On SIGTERM all of it is stopped, the database last.
 */

const BUILT = __dirname;
const DATA = process.env.ZIGZAG_DATA || ".data";
const STOP_MS = 4_000;
const WATCH_MS = 2_000;

const own = process.env.ZIGZAG_CLUSTER || null;
const kept: Kept[] = [];
let stopping = false;

function script(command: string): Promise<void> {
  return new Promise((resolve, reject) =>
    execFile(
      "bash",
      ["-c", `. bin/setup/packages.sh; . bin/setup/cluster.sh; ${command}`],
      (error, _out, said) => (error ? reject(new Error(said || error.message)) : resolve()),
    ),
  );
}

interface Started {
  process: Kept;
  /** Once it has taken its ports. */
  ports: Record<string, number>;
  ready: Promise<void>;
}

function start(name: string, file: string, env: Record<string, string>): Promise<Started> {
  return new Promise((resolve, reject) => {
    let isReady = () => {};
    const ready = new Promise<void>((done) => (isReady = done));
    const one = keepRunning({
      name,
      file: path.join(BUILT, file),
      log: path.join(DATA, `${name}.log`),
      env: { ...process.env, ...env },
      onHeld: (ports) => resolve({ process: one, ports, ready }),
      onReady: () => isReady(),
      onFirstFailure: (why) => reject(new Error(`${name} did not start: ${why}`)),
    });
    kept.push(one);
  });
}

/** Where a stand-in stood the last time, if that is free: clones and links lead there. */
function rememberedPort(name: string): string {
  try {
    return readFileSync(path.join(DATA, `${name}-port`), "utf8").trim();
  } catch {
    return "";
  }
}

const rememberPort = (name: string, port: number) =>
  writeFileSync(path.join(DATA, `${name}-port`), String(port));

/** The code host, and the pipeline that works for what is pushed to it. */
async function startCode(shared: Record<string, string>) {
  shared.CODE_SECRET = randomBytes(32).toString("base64url");
  shared.PIPELINE_SECRET = randomBytes(32).toString("base64url");
  const root = path.resolve(DATA, "code");
  const code = await start("code", "code-stand-in.cjs", {
    ...shared,
    CODE_ROOT: root,
    CODE_PORT_WISHED: rememberedPort("code"),
  });
  rememberPort("code", code.ports.code);
  shared.CODE_URL = `http://localhost:${code.ports.code}`;
  code.process.env.CODE_PORT = String(code.ports.code);
  const pipeline = await start("pipeline", "pipeline-stand-in.cjs", {
    ...shared,
    PIPELINE_ROOT: root,
    PIPELINE_PORT_WISHED: rememberedPort("pipeline"),
  });
  rememberPort("pipeline", pipeline.ports.pipeline);
  shared.PIPELINE_URL = `http://localhost:${pipeline.ports.pipeline}`;
  pipeline.process.env.PIPELINE_PORT = String(pipeline.ports.pipeline);
  code.process.tell({ pipeline: shared.PIPELINE_URL });
  return { code, pipeline };
}

async function run(): Promise<void> {
  const instance = randomUUID();
  const shared: Record<string, string> = { ZIGZAG_INSTANCE: instance, ZIGZAG_BUILT: BUILT };
  const standsIn = !process.env.MAIL_HOST;
  if (standsIn) shared.MAIL_DOMAIN = process.env.MAIL_DOMAIN || "in.saltmarsh.example";
  const { code, pipeline } = await startCode(shared);
  const mailbox = standsIn ? await start("mail", "mail-stand-in.cjs", shared) : null;
  if (mailbox)
    Object.assign(shared, {
      MAIL_HOST: "127.0.0.1",
      MAIL_PORT: String(mailbox.ports.smtp),
      MAILBOX_URL: `http://localhost:${mailbox.ports.mailbox}`,
    });
  // Its port is known at once; its pages are there a moment later, and the worker starts meanwhile.
  // The application says whether mail is handed over; the worker takes it.
  const door = { MAIL_DOOR_PORT: process.env.MAIL_DOOR_PORT || (standsIn ? "any" : "") };
  const app = await start("app", "serve.cjs", { ...shared, ...door });
  const address = process.env.APP_URL || `http://localhost:${app.ports.app}`;
  // Started again, each stands where it stood.
  app.process.env.PORT = String(app.ports.app);
  shared.APP_URL = address;
  const worker = await start("worker", "worker.cjs", {
    ...shared,
    ...door,
    ZIGZAG_PROCESS: "worker",
  });
  if (mailbox) {
    mailbox.process.env.MAIL_PORT = String(mailbox.ports.smtp);
    mailbox.process.env.MAILBOX_PORT = String(mailbox.ports.mailbox);
    mailbox.process.env.MAIL_DOOR_PORT = String(worker.ports.door);
    mailbox.process.tell({ door: worker.ports.door });
  }
  code.process.tell({ product: address });
  pipeline.process.tell({ product: address });
  if (worker.ports.door) worker.process.env.MAIL_DOOR_PORT = String(worker.ports.door);
  await app.ready;
  if (!(await answersAs(instance, app.ports.app)))
    throw new Error(`another product answers on port ${app.ports.app}`);
  writeFileSync(path.join(DATA, "address"), `${address}\n`);
  console.log(`\nZigzag Lane is open at ${address}`);
  if (mailbox)
    console.log(
      `Mail for requesters is kept in the mailbox at http://localhost:${mailbox.ports.mailbox}`,
    );
  console.log(`Code is kept at ${shared.CODE_URL}`);
  console.log(`The pipeline is at ${shared.PIPELINE_URL}`);
  console.log("Ctrl-C stops it. Logs are in .data/.");
}

/**
 * The health answer names its instance: another product on the same port is not taken for this one.
 */
async function answersAs(instance: string, port: number): Promise<boolean> {
  const health = (await (await fetch(`http://127.0.0.1:${port}/api/health`)).json()) as {
    instance?: string;
  };
  return health.instance === instance;
}

/** Our own database server, started again when it is gone. */
function watchCluster(home: string, port: string): void {
  let busy = false;
  setInterval(() => {
    if (busy || stopping || isAlive(home)) return;
    busy = true;
    console.log("The database server is gone; starting it again.");
    script(`start_cluster '${home}' '${port}'`).then(
      () => (busy = false),
      (error: Error) => {
        console.error(error.message.trim());
        busy = false;
      },
    );
  }, WATCH_MS).unref();
}

function isAlive(home: string): boolean {
  try {
    process.kill(
      Number(readFileSync(path.join(home, "data/postmaster.pid"), "utf8").split("\n")[0]),
      0,
    );
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === "EPERM";
  }
}

async function stop(code: number): Promise<void> {
  if (stopping) return;
  stopping = true;
  await Promise.all(kept.map((k) => k.stop(STOP_MS)));
  if (own)
    await script(`stop_cluster '${own}'`).catch((error: Error) => console.error(error.message));
  rmSync(path.join(DATA, "address"), { force: true });
  process.exit(code);
}

for (const signal of ["SIGTERM", "SIGINT", "SIGHUP"] as const)
  process.on(signal, () => void stop(0));
mkdirSync(DATA, { recursive: true });
for (const name of ["app", "worker", "mail", "code", "pipeline"])
  closeSync(openSync(path.join(DATA, `${name}.log`), "w"));
if (own) watchCluster(own, process.env.ZIGZAG_CLUSTER_PORT!);
run().catch((error: Error) => {
  console.error(`Cannot go on: ${error.message}`);
  void stop(1);
});
