import { spawn, type ChildProcess } from "node:child_process";
import path from "node:path";
import type { MoverJob } from "./movers";

export interface Movers {
  process: ChildProcess;
  lines: string[];
  /** Resolves when so many lines with a word have come. */
  heard: (word: string, times: number) => Promise<void>;
  ended: Promise<void>;
}

/** Starts a process that moves items in the database at `url`. */
export function runMovers(url: string, job: MoverJob): Movers {
  const root = path.resolve(__dirname, "../../..");
  const child = spawn(
    process.execPath,
    ["--import", "tsx", path.join(__dirname, "movers.ts"), JSON.stringify(job)],
    {
      cwd: root,
      env: { ...process.env, DATABASE_URL: url, DATABASE_POOL: "16", LOG_LEVEL: "silent" },
      stdio: ["ignore", "pipe", "inherit"],
    },
  );
  const lines: string[] = [];
  const waiting: { word: string; times: number; resolve: () => void }[] = [];
  let rest = "";
  child.stdout!.on("data", (data: Buffer) => {
    const parts = (rest + data.toString()).split("\n");
    rest = parts.pop()!;
    lines.push(...parts);
    for (const w of [...waiting])
      if (lines.filter((l) => l.startsWith(w.word)).length >= w.times) w.resolve();
  });
  const ended = new Promise<void>((resolve) => child.on("close", () => resolve()));
  return {
    process: child,
    lines,
    ended,
    heard: (word, times) => new Promise((resolve) => waiting.push({ word, times, resolve })),
  };
}
