import type { Instant } from "@/core/calendar/instant";

/** What git tells of a commit. */
export interface GitCommit {
  hash: string;
  parents: string[];
  name: string;
  mail: string;
  authoredAt: Instant;
  message: string;
  /** Of a merge git counts none. */
  files: number;
  insertions: number;
  deletions: number;
}

/**
 * What git is asked with, so that `readGitLog` can read the answer: no text of a commit holds the sign
 * between the fields. Source: git-log(1), git-commit(1).
 */
export const GIT_LOG: readonly string[] = [
  `--format=${["", "%H", "%P", "%an", "%ae", "%at", "%B", ""].join("%x00")}`,
  "--numstat",
];

const FIELD = "\u0000";
const FIELDS = 7;

/** How large a difference is, as `git diff --numstat` tells it; of binary files it counts no lines. */
export function readNumstat(told: string): Pick<GitCommit, "files" | "insertions" | "deletions"> {
  const lines = told
    .split("\n")
    .filter((line) => line.includes("\t"))
    .map((line) => line.split("\t"));
  const sum = (column: number) =>
    lines.reduce((total, line) => total + (Number(line[column]) || 0), 0);
  return { files: lines.length, insertions: sum(0), deletions: sum(1) };
}

/** Reads what git says when it is asked with `GIT_LOG`, in its order. */
export function readGitLog(told: string): GitCommit[] {
  const fields = told.split(FIELD).slice(1);
  const commits: GitCommit[] = [];
  for (let i = 0; i + FIELDS <= fields.length; i += FIELDS) {
    const [hash, parents, name, mail, at, message, stat] = fields.slice(i, i + FIELDS);
    commits.push({
      ...{ hash, name, mail, authoredAt: Number(at) * 1000, message: message.trimEnd() },
      parents: parents === "" ? [] : parents.split(" "),
      ...readNumstat(stat),
    });
  }
  return commits;
}
