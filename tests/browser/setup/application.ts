import { spawn, type ChildProcess } from "node:child_process";
import { createServer } from "node:net";
import path from "node:path";
import { createTestDatabase } from "../../server/setup/test-database";

const ROOT = path.resolve(__dirname, "../../..");

export function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const server = createServer().listen(0, "127.0.0.1", () => {
      const { port } = server.address() as { port: number };
      server.close(() => resolve(port));
    });
  });
}

export interface Application {
  address: string;
  process: ChildProcess;
  stop: () => Promise<void>;
}

/** Where bin/test compiled the programs to. */
export const BUILT = path.join(ROOT, ".built-test");

function start(program: string, environment: Record<string, string>): ChildProcess {
  return spawn(process.execPath, [path.join(BUILT, program)], {
    cwd: ROOT,
    env: { ...process.env, ZIGZAG_BUILT: BUILT, ...environment },
    stdio: ["ignore", "inherit", "inherit"],
  });
}

const ended = (child: ChildProcess) =>
  new Promise<void>((resolve) =>
    child.exitCode !== null || child.signalCode ? resolve() : child.once("close", () => resolve()),
  );

/** Starts the built application on a database, as bin/start does. */
export async function startApplication(
  databaseUrl: string,
  more: Record<string, string> = {},
): Promise<Application> {
  const port = await freePort();
  const address = `http://localhost:${port}`;
  const child = start("serve.cjs", {
    DATABASE_URL: databaseUrl,
    PORT: String(port),
    APP_URL: address,
    BETTER_AUTH_SECRET: "tests-only-secret-of-more-than-32-letters-0123456789",
    NEXT_DIST_DIR: ".next-test",
    NODE_ENV: "production",
    LOG_LEVEL: "error",
    ...more,
  });
  for (let tries = 0; ; tries++) {
    const answer = await fetch(`${address}/api/health`).catch(() => null);
    if (answer?.ok) break;
    if (tries > 200 || child.exitCode !== null) throw new Error("the application did not start");
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  return {
    address,
    process: child,
    stop: async () => {
      child.kill("SIGTERM");
      await ended(child);
    },
  };
}

export function startWorker(databaseUrl: string): { stop: () => Promise<void> } {
  const child = start("worker.cjs", {
    DATABASE_URL: databaseUrl,
    LOG_LEVEL: "silent",
    MEANINGS: "off",
  });
  return {
    stop: async () => {
      child.kill("SIGTERM");
      await ended(child);
    },
  };
}

/** Gives a test file the whole product, application and worker, on a copy of the demo world. */
export function givenApplication(more: Record<string, string> = {}): {
  address: () => string;
  databaseUrl: () => string;
} {
  let app: Application;
  let url: string;
  const cleanUp: (() => Promise<void>)[] = [];
  beforeAll(async () => {
    const database = await createTestDatabase();
    url = database.url;
    app = await startApplication(url, more);
    const worker = startWorker(url);
    cleanUp.push(
      () => app.stop(),
      () => worker.stop(),
      database.drop,
    );
  });
  afterAll(async () => {
    for (const step of cleanUp) await step();
  });
  return { address: () => app.address, databaseUrl: () => url };
}
