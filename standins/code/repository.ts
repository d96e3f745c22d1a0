import { existsSync, mkdirSync, readdirSync } from "node:fs";
import path from "node:path";
import { GIT_LOG, readGitLog, readNumstat, type GitCommit } from "@/core/formats/git-log";
import { git, tryGit } from "./git";

/*
 * What is asked of a bare repository. Names of branches and hashes are given to git as arguments of
 * their own, behind what says that no option follows.
 */

export const MAIN = "main";

/** Names of repositories are parts of addresses. */
export const isRepositoryName = (name: string): boolean => /^[a-z0-9][a-z0-9-]{0,60}$/.test(name);

export const isHash = (text: string): boolean => /^[0-9a-f]{7,64}$/.test(text);

/** The folder of a repository; null where there is none of that name. */
export function folderOf(root: string, name: string): string | null {
  if (!isRepositoryName(name)) return null;
  const folder = path.join(root, `${name}.git`);
  return existsSync(path.join(folder, "HEAD")) ? folder : null;
}

export const repositoriesIn = (root: string): string[] =>
  existsSync(root)
    ? readdirSync(root)
        .filter((entry) => entry.endsWith(".git") && isRepositoryName(entry.slice(0, -4)))
        .map((entry) => entry.slice(0, -4))
        .toSorted()
    : [];

/** Makes an empty repository. @throws Error where its name cannot be, or is taken */
export async function makeEmpty(root: string, name: string): Promise<void> {
  if (!isRepositoryName(name)) throw new Error("A name has small letters, figures and hyphens.");
  if (folderOf(root, name)) throw new Error(`There is a repository ${name} already.`);
  const folder = path.join(root, `${name}.git`);
  mkdirSync(folder, { recursive: true });
  await git(folder, ["init", "--quiet", "--bare", `--initial-branch=${MAIN}`]);
}

/** Branches with the hashes that they stand at. */
export async function branchesOf(folder: string): Promise<Map<string, string>> {
  const told = await git(folder, [
    "for-each-ref",
    "--format=%(objectname) %(refname:lstrip=2)",
    "refs/heads",
  ]);
  const lines = told.split("\n").filter((line) => line !== "");
  return new Map(
    lines.map((line) => [line.slice(line.indexOf(" ") + 1), line.slice(0, line.indexOf(" "))]),
  );
}

/** Commits from some heads on, without those that others have; the latest first. */
export async function commitsOf(
  folder: string,
  { heads, without = [], most = 500 }: { heads: string[]; without?: string[]; most?: number },
): Promise<GitCommit[]> {
  if (heads.length === 0) return [];
  const told = await git(folder, [
    "log",
    `--max-count=${most}`,
    ...GIT_LOG,
    ...heads,
    "--not",
    ...without,
    "--",
  ]);
  return readGitLog(told);
}

/** How many commits of another one a commit does not have. */
export const countBehind = async (folder: string, head: string, main: string): Promise<number> =>
  Number((await git(folder, ["rev-list", "--count", `${head}..${main}`, "--"])).trim());

/** Whether a commit contains another one. */
export const contains = async (folder: string, head: string, other: string): Promise<boolean> =>
  (await tryGit(folder, ["merge-base", "--is-ancestor", other, head])).code === 0;

export const sizeBetween = async (folder: string, main: string, head: string) =>
  readNumstat(await git(folder, ["diff", "--numstat", `${main}...${head}`, "--"]));

/** More of a difference is not shown; all of it can be cloned. */
const DIFF_SHOWN = 200_000;

/** What a change does to main, as text; cut where it is long. */
export async function diffBetween(
  folder: string,
  main: string,
  head: string,
): Promise<{ text: string; cut: boolean }> {
  const { out, code } = await tryGit(folder, ["diff", "--no-color", `${main}...${head}`, "--"]);
  if (code !== 0) return { text: "", cut: true };
  return { text: out.slice(0, DIFF_SHOWN), cut: out.length > DIFF_SHOWN };
}

/** The tree that a merge would have; null where it does not merge cleanly. */
export async function mergedTree(
  folder: string,
  main: string,
  head: string,
): Promise<string | null> {
  const { code, out, error } = await tryGit(folder, ["merge-tree", "--write-tree", main, head]);
  if (code > 1) throw new Error(error);
  return code === 0 ? out.trim().split("\n")[0] : null;
}

/** Merges a head into main, in somebody's name. @returns the hash of the merge */
export async function mergeInto(
  folder: string,
  {
    main,
    head,
    tree,
    message,
    by,
  }: {
    main: string;
    head: string;
    tree: string;
    message: string;
    by: { name: string; mail: string };
  },
): Promise<string> {
  const env = {
    ...{ GIT_AUTHOR_NAME: by.name, GIT_AUTHOR_EMAIL: by.mail },
    ...{ GIT_COMMITTER_NAME: by.name, GIT_COMMITTER_EMAIL: by.mail },
  };
  const made = await git(folder, ["commit-tree", tree, "-p", main, "-p", head], {
    input: message,
    env,
  });
  const hash = made.trim();
  // Only where main stands as it did: somebody may have pushed meanwhile.
  await git(folder, ["update-ref", `refs/heads/${MAIN}`, hash, main]);
  return hash;
}

/** Names of tags as git takes them, and nothing that could be taken for an option. */
const isTagName = (tag: string): boolean => /^[A-Za-z0-9][A-Za-z0-9._-]{0,99}$/.test(tag);

/** Tags a commit. @returns what became of it */
export async function tagged(
  folder: string,
  { tag, commit }: { tag: string; commit: string },
): Promise<"tagged" | "elsewhere" | "no commit"> {
  if (!isTagName(tag) || !isHash(commit)) return "no commit";
  const commitOf = async (name: string): Promise<string | null> => {
    const { code, out } = await tryGit(folder, ["rev-parse", "--verify", "--quiet", name]);
    return code === 0 ? out.trim() : null;
  };
  const whole = await commitOf(`${commit}^{commit}`);
  if (whole === null) return "no commit";
  const before = await commitOf(`refs/tags/${tag}`);
  if (before !== null) return before === whole ? "tagged" : "elsewhere";
  await git(folder, ["update-ref", `refs/tags/${tag}`, whole]);
  return "tagged";
}

/** Tags with the commits that they are put to, the latest first. */
export async function tagsOf(folder: string): Promise<{ tag: string; commit: string }[]> {
  const told = await git(folder, [
    "for-each-ref",
    "--sort=-creatordate",
    "--count=20",
    "--format=%(objectname) %(refname:lstrip=2)",
    "refs/tags",
  ]);
  return told
    .split("\n")
    .filter((line) => line !== "")
    .map((line) => ({
      commit: line.slice(0, line.indexOf(" ")),
      tag: line.slice(line.indexOf(" ") + 1),
    }));
}
