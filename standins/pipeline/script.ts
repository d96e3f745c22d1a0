import { spawn } from "node:child_process";
import { appendFileSync, chownSync, existsSync, writeFileSync } from "node:fs";
import path from "node:path";

/*
 * Scripts of repositories are run in a folder of their own, as a user with no rights where there is one,
 * with a clean environment, for a bounded time and with a bounded output.
 */

export interface Limits {
  longestMs: number;
  /** Of what is written down. */
  mostBytes: number;
}

export const LIMITS: Limits = { longestMs: 5 * 60_000, mostBytes: 512 * 1024 };

/** The user that nothing belongs to, on Debian; it can be taken only by root. */
const NOBODY = 65_534;
const isRoot = process.getuid?.() === 0;
export const UNPRIVILEGED = isRoot ? { uid: NOBODY, gid: NOBODY } : {};

/** Gives a folder to whom scripts run as. */
export function handOver(folder: string): void {
  if (isRoot) chownSync(folder, NOBODY, NOBODY);
}

/** Writes what a program says into a log, up to a limit. */
class Log {
  private written = 0;

  constructor(
    private readonly file: string,
    private readonly most: number,
  ) {}

  say(words: string | Buffer): void {
    if (this.written >= this.most) return;
    const part = Buffer.from(words).subarray(0, this.most - this.written);
    appendFileSync(this.file, part);
    this.written += part.length;
    if (this.written >= this.most) appendFileSync(this.file, "\n… the rest is not kept.\n");
  }
}

interface Running {
  folder: string;
  log: string;
  env?: Record<string, string>;
  limits?: Limits;
}

/** Runs a program to its end. @returns whether it ended well */
export function runProgram(
  program: string,
  args: readonly string[],
  { folder, log: file, env = {}, limits = LIMITS }: Running,
): Promise<boolean> {
  const log = new Log(file, limits.mostBytes);
  return new Promise((resolve) => {
    const child = spawn(program, args, {
      ...{ cwd: folder, detached: true, stdio: ["ignore", "pipe", "pipe"], ...UNPRIVILEGED },
      env: {
        ...{ PATH: process.env.PATH ?? "/usr/bin:/bin", HOME: folder, TMPDIR: folder },
        ...{ LC_ALL: "C.UTF-8", GIT_CONFIG_NOSYSTEM: "1", GIT_TERMINAL_PROMPT: "0", ...env },
      } as unknown as NodeJS.ProcessEnv,
    });
    const timer = setTimeout(() => {
      log.say(`\nIt took longer than ${limits.longestMs / 1_000} seconds and was stopped.\n`);
      end(child.pid);
    }, limits.longestMs);
    child.stdout!.on("data", (part: Buffer) => log.say(part));
    child.stderr!.on("data", (part: Buffer) => log.say(part));
    child.on("error", (error) => {
      clearTimeout(timer);
      log.say(`${error.message}\n`);
      resolve(false);
    });
    child.on("close", (code) => {
      clearTimeout(timer);
      // What it left running goes with it.
      end(child.pid);
      if (code !== 0) log.say(`\nIt ended with ${code ?? "a signal"}.\n`);
      resolve(code === 0);
    });
  });
}

/** Ends a program and all that it began. */
function end(pid: number | undefined): void {
  if (pid === undefined) return;
  try {
    process.kill(-pid, "SIGKILL");
  } catch {
    // It is gone already.
  }
}

/**
 * Runs one of a repository's own scripts; where there is none, that is said and nothing is wrong.
 * @returns whether it ended well
 */
export async function runScript(
  name: string,
  args: readonly string[],
  running: Running,
): Promise<boolean> {
  const script = path.join(running.folder, ".pipeline", name);
  if (!existsSync(script)) {
    writeFileSync(running.log, `There is no .pipeline/${name}: nothing to do.\n`, { flag: "a" });
    return true;
  }
  return runProgram(script, args, running);
}
