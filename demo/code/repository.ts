import { execFileSync } from "node:child_process";
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync } from "node:fs";
import path from "node:path";
import type { Instant } from "@/core/calendar/instant";
import { GIT_LOG, readGitLog, type GitCommit } from "@/core/formats/git-log";
import { mailOf, PEOPLE } from "../people";
import type { CodeStory, Edit } from "./story";

/*
 * A real repository with what the crew wrote: its commits are made by git itself, so that their hashes,
 * parents and sizes are those that git says.
 */

/** What was made: each story's commits and what it was merged as. */
export interface MadeRepository {
  commits: Map<string, GitCommit>;
  first: string;
  byStory: Map<
    CodeStory,
    {
      commits: string[];
      mergedAs: string | null;
      /** Of what is not merged: how it stands to main. */
      behind: number | null;
      mergesCleanly: boolean | null;
    }
  >;
  /** The commit that took a merged story back, where one was to be. */
  revert: { story: CodeStory; hash: string; at: Instant } | null;
}

type Files = ReadonlyMap<string, ReadonlyMap<string, string>>;

const edited = (files: Files, edits: readonly Edit[]): Files => {
  const next = new Map(files);
  for (const { file, line, words } of edits)
    next.set(file, new Map([...(next.get(file) ?? []), [line, words]]));
  return next;
};

const textOf = (lines: ReadonlyMap<string, string>): string =>
  [...lines]
    .toSorted(([a], [b]) => (a < b ? -1 : 1))
    .map(([line, words]) => `${line} = ${words}\n`)
    .join("");

const bytes = (text: string) => `data ${Buffer.byteLength(text)}\n${text}\n`;
const seconds = (at: Instant) => `${Math.floor(at / 1000)} +0000`;

/** Under which name and address somebody commits; one of them does at home under another. */
function signature(personId: string, at: Instant): string {
  const person = PEOPLE.find(({ id }) => id === personId)!;
  const hour = new Date(at).getUTCHours();
  if (personId === "ivo" && hour >= 14) return `ivo <ivo@boathouse.example> ${seconds(at)}`;
  return `${person.name} <${mailOf(person)}> ${seconds(at)}`;
}

/** Writes what git's importer reads (git-fast-import(1)). */
class Stream {
  private readonly parts: string[] = [];
  private marks = 0;

  commit(of: {
    branch: string;
    byId: string;
    at: Instant;
    message: string;
    parents: readonly number[];
    files: readonly (readonly [name: string, text: string, mode?: string])[];
  }): number {
    this.marks += 1;
    const by = signature(of.byId, of.at);
    const [first, second] = of.parents;
    this.parts.push(
      `commit refs/heads/${of.branch}\nmark :${this.marks}\n`,
      `author ${by}\ncommitter ${by}\n`,
      bytes(of.message),
      first === undefined ? "" : `from :${first}\n`,
      second === undefined ? "" : `merge :${second}\n`,
      ...of.files.map(
        ([name, text, mode = "100644"]) => `M ${mode} inline ${name}\n${bytes(text)}`,
      ),
      "\n",
    );
    return this.marks;
  }

  remove(branch: string): void {
    this.parts.push(`reset refs/heads/${branch}\nfrom ${"0".repeat(40)}\n\n`);
  }

  toString(): string {
    return this.parts.join("");
  }
}

const git = (folder: string, args: readonly string[], input = ""): string =>
  execFileSync("git", ["-C", folder, ...args], {
    input,
    maxBuffer: 256 * 1024 * 1024,
    stdio: ["pipe", "pipe", "pipe"],
  }).toString("utf8");

/** The files of a folder, with their texts. */
function treeOf(folder: string, below = ""): [string, string, string][] {
  if (!existsSync(path.join(folder, below))) return [];
  return readdirSync(path.join(folder, below)).flatMap((name): [string, string, string][] => {
    const at = path.join(below, name);
    const stat = statSync(path.join(folder, at));
    if (stat.isDirectory()) return treeOf(folder, at);
    const mode = stat.mode & 0o100 ? "100755" : "100644";
    return [[at, readFileSync(path.join(folder, at), "utf8"), mode]];
  });
}

/**
 * Makes a bare repository of what was written.
 * @param begins what its first commit has, and when and by whom it was made
 * @param takenBack a merged story that main takes back at a time
 */
export function makeRepository(
  folder: string,
  stories: readonly CodeStory[],
  {
    begins,
    takenBack,
  }: {
    begins: { tree: string; at: Instant; byId: string };
    takenBack: { story: CodeStory; at: Instant } | null;
  },
): MadeRepository {
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  git(folder, ["init", "--quiet", "--bare", "--initial-branch=main"]);
  const stream = new Stream();
  const tree = treeOf(begins.tree);
  const first = stream.commit({
    ...{ branch: "main", byId: begins.byId, at: begins.at, parents: [] },
    message: "What there is so far",
    files: tree.length > 0 ? tree : [["README.md", "Read the texts and settings.\n", "100644"]],
  });
  let main: { mark: number; files: Files } = { mark: first, files: new Map() };
  const marks = new Map<CodeStory, { commits: number[]; mergedAs: number | null }>();
  const branches = new Map<CodeStory, { mark: number; files: Files; edits: Edit[] }>();
  for (const { story, act } of inTime(stories)) {
    const branch = branches.get(story) ?? { ...main, edits: [] };
    const made = marks.get(story) ?? { commits: [], mergedAs: null };
    marks.set(story, made);
    if (act.kind === "commit") {
      const files = edited(branch.files, act.commit.edits);
      const mark = stream.commit({
        ...{ branch: story.branch, byId: act.commit.byId, at: act.commit.at },
        message: act.commit.message,
        parents: [branch.mark],
        files: changed(files, act.commit.edits),
      });
      made.commits.push(mark);
      branches.set(story, { mark, files, edits: [...branch.edits, ...act.commit.edits] });
      continue;
    }
    const files = edited(main.files, branch.edits);
    const mark = stream.commit({
      ...{ branch: "main", byId: story.change!.mergedById, at: act.at },
      message: `Merge ${story.branch}: ${story.item.title}`,
      parents: [main.mark, branch.mark],
      files: changed(files, branch.edits),
    });
    made.mergedAs = mark;
    main = { mark, files };
    stream.remove(story.branch);
  }
  const marked = path.resolve(folder, "marks");
  git(folder, ["fast-import", "--quiet", "--force", `--export-marks=${marked}`], stream.toString());
  const hashOf = new Map(
    readFileSync(marked, "utf8")
      .trim()
      .split("\n")
      .map((line) => line.slice(1).split(" ") as [string, string]),
  );
  rmSync(marked);
  const hash = (mark: number) => hashOf.get(String(mark))!;
  const byStory = new Map(
    [...marks].map(([story, { commits, mergedAs }]) => [
      story,
      {
        ...{ commits: commits.map(hash), mergedAs: mergedAs === null ? null : hash(mergedAs) },
        ...{ behind: null as number | null, mergesCleanly: null as boolean | null },
      },
    ]),
  );
  const revert = takenBack
    ? { ...takenBack, hash: takeBack(folder, takenBack, byStory.get(takenBack.story)!.mergedAs!) }
    : null;
  for (const [story, made] of byStory)
    if (made.mergedAs === null) Object.assign(made, standing(folder, story.branch));
  return { commits: readCommits(folder), first: hash(first), byStory, revert };
}

/** How a branch stands to main, as git says. */
function standing(folder: string, branch: string): { behind: number; mergesCleanly: boolean } {
  const behind = Number(git(folder, ["rev-list", "--count", `refs/heads/${branch}..main`]));
  try {
    git(folder, ["merge-tree", "--write-tree", "main", `refs/heads/${branch}`]);
    return { behind, mergesCleanly: true };
  } catch {
    return { behind, mergesCleanly: false };
  }
}

const changed = (files: Files, edits: readonly Edit[]): [string, string][] =>
  [...new Set(edits.map(({ file }) => file))].map((file) => [file, textOf(files.get(file)!)]);

type Act = { kind: "commit"; at: Instant; commit: CodeStory["commits"][number] } | Merge;
interface Merge {
  kind: "merge";
  at: Instant;
}

/** All that happened in all stories, one after the other. */
function inTime(stories: readonly CodeStory[]): { story: CodeStory; act: Act }[] {
  return stories
    .flatMap((story) => {
      const { commits, change } = story;
      const acts = commits.map((commit): Act => ({ kind: "commit", at: commit.at, commit }));
      if (change?.mergedAt != null) acts.push({ kind: "merge", at: change.mergedAt });
      return acts.map((act) => ({ story, act }));
    })
    .toSorted((a, b) => a.act.at - b.act.at);
}

/** Takes a merge back on main, as `git revert` writes it. @returns the hash of that commit */
function takeBack(
  folder: string,
  { story, at }: { story: CodeStory; at: Instant },
  mergedAs: string,
): string {
  const subject = `Revert "Merge ${story.branch}: ${story.item.title}"`;
  const by = signature("ines", at);
  const message = `${subject}\n\nThis reverts commit ${mergedAs}.\n`;
  const stream = `commit refs/heads/main\nmark :1\nauthor ${by}\ncommitter ${by}\n${bytes(message)}from refs/heads/main^0\nM 100644 inline settings/taken-back.txt\n${bytes(`${story.key}\n`)}\n`;
  git(folder, ["fast-import", "--quiet"], stream);
  return git(folder, ["rev-parse", "refs/heads/main"]).trim();
}

/** All commits of a repository. */
const readCommits = (folder: string): Map<string, GitCommit> =>
  new Map(readGitLog(git(folder, ["log", "--all", ...GIT_LOG])).map((one) => [one.hash, one]));
