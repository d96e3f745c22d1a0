import { spawn } from "node:child_process";
import { readFileSync } from "node:fs";
import { createServer } from "node:net";
import path from "node:path";
import { hashPassword } from "better-auth/crypto";
import { addressOf, type AskedOf, type Contract } from "@/core/contract/contract";
import { sessionContract } from "@/core/people/contract";
import { database, databaseUrl } from "@/db/connection";
import * as table from "@/db/schema";

const PASSWORD = "tide-goes-out";

/** The first person of the organisation gets a password. */
export async function givePassword(): Promise<void> {
  const password = await hashPassword(PASSWORD);
  await database().insert(table.account).values({
    id: "password-p0",
    accountId: "p0",
    providerId: "credential",
    userId: "p0",
    password,
  });
}

const freePort = () =>
  new Promise<number>((resolve) => {
    const server = createServer().listen(0, "127.0.0.1", () => {
      const { port } = server.address() as { port: number };
      server.close(() => resolve(port));
    });
  });

/** The product as people run it, with somebody signed in. */
export interface Application {
  /** What a contract asks, sent as a browser would. */
  ask: <C extends Contract>(of: C, asked: AskedOf<C>) => Promise<Response>;
  send: (address: string, init?: RequestInit) => Promise<Response>;
  /** Its address, and what a browser sends to be who is signed in. */
  session: { base: string; cookie: string };
  /** Memory that its process holds, in megabytes. */
  memory: () => number;
  stop: () => Promise<void>;
}

const BUILT = path.resolve(".built-bench");

/** Starts what was built for measuring. */
export async function startApplication(): Promise<Application> {
  const port = await freePort();
  const base = `http://localhost:${port}`;
  const child = spawn(process.execPath, [path.join(BUILT, "serve.cjs")], {
    env: {
      ...process.env,
      ZIGZAG_BUILT: BUILT,
      DATABASE_URL: databaseUrl(),
      PORT: String(port),
      APP_URL: base,
      BETTER_AUTH_SECRET: "measuring-only-secret-of-more-than-32-letters-0123",
      NEXT_DIST_DIR: ".next-bench",
      NODE_ENV: "production",
      LOG_LEVEL: "error",
    },
    stdio: ["ignore", "inherit", "inherit"],
  });
  for (let tries = 0; !(await fetch(`${base}/api/health`).catch(() => null))?.ok; tries++) {
    if (tries > 300 || child.exitCode !== null) throw new Error("the application did not start");
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  let cookie = "";
  const send = async (address: string, init: RequestInit = {}) => {
    const answer = await fetch(base + address, {
      ...init,
      headers: { "Content-Type": "application/json", Origin: base, Cookie: cookie },
    });
    if (!answer.ok) throw new Error(`${address}: ${answer.status} ${await answer.text()}`);
    return answer;
  };
  const ask: Application["ask"] = (of, asked) =>
    send(addressOf(of, asked), {
      method: of.method,
      body: "body" in asked ? JSON.stringify(asked.body) : undefined,
    });
  const signedIn = await ask(sessionContract.signIn, {
    body: { email: "p0@saltmarsh.example", password: PASSWORD },
  });
  cookie = signedIn.headers
    .getSetCookie()
    .map((each) => each.split(";")[0])
    .join("; ");
  return {
    ask,
    send,
    session: { base, cookie },
    memory: () =>
      Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, "utf8"))![1]) / 1024,
    stop: async () => {
      const ended = new Promise((resolve) => child.once("close", resolve));
      child.kill("SIGTERM");
      await ended;
    },
  };
}
