import { execFile } from "node:child_process";

/** So much of what git says is read, and so long it may take. */
const MOST = 64 * 1024 * 1024;
const LONGEST_MS = 60_000;

/** What git said, and how it ended. */
export interface GitAnswer {
  code: number;
  out: string;
  error: string;
}

/** Only what git needs: nothing of the product's own environment. */
export const GIT_ENV = {
  PATH: process.env.PATH ?? "/usr/bin:/bin",
  HOME: "/nonexistent",
  GIT_CONFIG_NOSYSTEM: "1",
  GIT_TERMINAL_PROMPT: "0",
  LC_ALL: "C.UTF-8",
};

/** Runs git in a repository, without a shell, and tells how it ended. */
export function tryGit(
  folder: string,
  args: readonly string[],
  { input = "", env = {} }: { input?: string; env?: Record<string, string> } = {},
): Promise<GitAnswer> {
  return new Promise((resolve) => {
    const child = execFile(
      "git",
      ["--git-dir", folder, ...args],
      {
        env: { ...GIT_ENV, ...env } as unknown as NodeJS.ProcessEnv,
        maxBuffer: MOST,
        timeout: LONGEST_MS,
      },
      (error, out, said) => {
        const code = error ? (typeof error.code === "number" ? error.code : 128) : 0;
        resolve({ code, out, error: said || (error && code === 128 ? error.message : "") });
      },
    );
    child.stdin?.on("error", () => {});
    child.stdin?.end(input);
  });
}

/** The same where it must go well. @throws Error with what git said */
export async function git(
  folder: string,
  args: readonly string[],
  more: { input?: string; env?: Record<string, string> } = {},
): Promise<string> {
  const { code, out, error } = await tryGit(folder, args, more);
  if (code !== 0) throw new Error(`git ${args[0]}: ${error.trim() || `ended with ${code}`}`);
  return out;
}
