import type { Instant } from "@/core/calendar/instant";
import type { ChangeChecks, LinkedChange } from "@/core/item/outside";
import type { DiffSize } from "./code-event";

/** Somebody who wrote, merged or looked at something. */
export interface CodePerson {
  /** As the product calls them; else as the code host does. */
  name: string;
  /** Null where nobody here has that mail address. */
  personId: string | null;
}

export interface CodeCommit {
  hash: string;
  /** The first line of its message. */
  subject: string;
  by: CodePerson;
  authoredAt: Instant;
  size: DiffSize | null;
  url: string | null;
  onMain: boolean;
  /** A push left it behind: it is on no branch any more. */
  leftBehind: boolean;
  /** The commit that took it back on main; null where none did. */
  revertedBy: string | null;
}

export interface CodeReview {
  by: CodePerson;
  verdict: "approved" | "sent back";
  at: Instant;
  /** Whether commits came since. */
  ofOlder: boolean;
}

/** What is proposed to be merged. */
export interface CodeChange {
  /** As the code host names it. */
  name: string;
  title: string;
  status: LinkedChange["status"];
  by: CodePerson | null;
  openedAt: Instant | null;
  endedAt: Instant | null;
  checks: ChangeChecks | null;
  /** The last word of each who looked at it, the newest first. */
  reviews: CodeReview[];
  behind: number | null;
  mergesCleanly: boolean | null;
  url: string | null;
}

/** A piece of work in one repository: a branch, the change that it became, its commits. */
export interface CodeWork {
  id: string;
  /** Null for a change of which only its name is known. */
  repository: string | null;
  branch: string | null;
  /** Whether the branch is there still. */
  branchGone: boolean;
  /** Where the branch can be proposed to be merged; null where nobody said, or it is gone. */
  branchUrl: string | null;
  change: CodeChange | null;
  /** The newest first. */
  commits: CodeCommit[];
  size: DiffSize | null;
  /** When something happened to it last. */
  at: Instant;
}

/** An environment, and how much of an item is on it. */
export interface ItemPresence {
  name: string;
  live: boolean;
  there: "all" | "some" | "none";
  /** Since when as much as now; null where nobody told. */
  since: Instant | null;
  /** Where it can be looked at. */
  address: string | null;
}

/** What an item has in the code hosts that its project hears of. */
export interface ItemCode {
  /** What its next branch is called, by the project's pattern and for whoever looks. */
  branchName: string;
  /** Whether its project hears of any repository. */
  heard: boolean;
  works: CodeWork[];
  /** Commits that name it and belong to no such piece of work. */
  mentions: (CodeCommit & { repository: string })[];
  /** The project's environments, in their order; none where nothing of it is on main. */
  environments: ItemPresence[];
}

/**
 * How large some commits are together: the sum of their differences. A file that two of them change
 * counts twice, so a change's own size, where the host tells it, is the better one.
 */
export function sizeTogether(commits: readonly Pick<CodeCommit, "size">[]): DiffSize | null {
  const sizes = commits.flatMap(({ size }) => size ?? []);
  if (sizes.length === 0) return null;
  const sum = (of: (size: DiffSize) => number) =>
    sizes.reduce((total, size) => total + of(size), 0);
  return {
    files: sum(({ files }) => files),
    insertions: sum(({ insertions }) => insertions),
    deletions: sum(({ deletions }) => deletions),
  };
}

/** How far a piece of work has come; each step is taken once the ones before it are, or are skipped. */
export const WORK_STEPS = ["written", "proposed", "read", "on main"] as const;
export type WorkStep = (typeof WORK_STEPS)[number];

/** The steps that a piece of work has taken. */
export function stepsTaken({ change, commits }: Pick<CodeWork, "change" | "commits">): WorkStep[] {
  const read = change?.reviews.some(({ verdict, ofOlder }) => verdict === "approved" && !ofOlder);
  return [
    ...(commits.length > 0 || change ? (["written"] as const) : []),
    ...(change ? (["proposed"] as const) : []),
    ...(read ? (["read"] as const) : []),
    ...(change?.status === "merged" ? (["on main"] as const) : []),
  ];
}

/** What is still open stands first, then by what happened last. */
export const inOrderOfWork = (works: readonly CodeWork[]): CodeWork[] =>
  works.toSorted((a, b) => rankOf(a) - rankOf(b) || b.at - a.at);

/** Open changes, then branches without one, then what was merged, then what was given up. */
function rankOf({ change, branchGone }: CodeWork): number {
  if (change === null) return branchGone ? 3 : 1;
  return { open: 0, merged: 2, abandoned: 3 }[change.status];
}
