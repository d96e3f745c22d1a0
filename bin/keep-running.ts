import { fork, type ChildProcess } from "node:child_process";
import { openSync, readFileSync } from "node:fs";

export interface KeptProcess {
  name: string;
  /** What node runs. */
  file: string;
  /** What it says goes here. */
  log: string;
  env: NodeJS.ProcessEnv;
  /** When it has taken its ports, the first time. */
  onHeld: (ports: Record<string, number>) => void;
  /** Each time that it is ready. */
  onReady: () => void;
  /** When it ended before it was ever ready. */
  onFirstFailure: (why: string) => void;
}

export interface Kept {
  /** As it will be started next. */
  env: NodeJS.ProcessEnv;
  tell: (message: object) => void;
  /** Ends it for good; after so long without asking. */
  stop: (patienceMs: number) => Promise<void>;
}

const FIRST_PAUSE_MS = 500;
const LONGEST_PAUSE_MS = 15_000;
/** Whoever lived so long starts over with the shortest pause. */
const WELL_MS = 60_000;

/** Starts a process, and starts it again with growing pauses whenever it dies. */
export function keepRunning({
  name,
  file,
  log,
  env,
  onHeld,
  onReady,
  onFirstFailure,
}: KeptProcess): Kept {
  let child: ChildProcess | null = null;
  let pause = FIRST_PAUSE_MS;
  let wasReady = false;
  let ending = false;
  let timer: NodeJS.Timeout | null = null;
  let toldLast: object | null = null;

  const begin = () => {
    const startedAt = Date.now();
    const out = openSync(log, "a");
    const started = fork(file, [], {
      env,
      execArgv: ["--enable-source-maps"],
      stdio: ["ignore", out, out, "ipc"],
    });
    child = started;
    started.on(
      "message",
      ({ held, ready }: { held?: Record<string, number>; ready?: Record<string, number> }) => {
        const ports = held ?? ready;
        if (ports) onHeld(ports);
        if (!ready) return;
        wasReady = true;
        if (toldLast) started.send(toldLast);
        onReady();
      },
    );
    started.on("exit", (code, signal) => {
      child = null;
      if (ending) return;
      if (!wasReady) return onFirstFailure(lastLines(log));
      if (Date.now() - startedAt > WELL_MS) pause = FIRST_PAUSE_MS;
      console.log(`${name} has ended (${signal ?? code}); it is started again.`);
      timer = setTimeout(begin, pause);
      pause = Math.min(pause * 2, LONGEST_PAUSE_MS);
    });
  };
  begin();
  return {
    env,
    tell: (message) => {
      // Started again, it is told all of it.
      toldLast = { ...toldLast, ...message };
      child?.send(message);
    },
    stop: async (patienceMs) => {
      ending = true;
      if (timer) clearTimeout(timer);
      const running = child;
      if (!running) return;
      const ended = new Promise<void>((resolve) => running.once("exit", () => resolve()));
      running.kill("SIGTERM");
      const force = setTimeout(() => running.kill("SIGKILL"), patienceMs);
      await ended;
      clearTimeout(force);
    },
  };
}

const lastLines = (log: string): string =>
  readFileSync(log, "utf8").trim().split("\n").slice(-12).join("\n");
