import type { Instant } from "@/core/calendar/instant";
import { dayNumber } from "@/core/calendar/zone";
import type { CodeWork } from "./item-code";
import type { MainState } from "./main-health";
import type { ShipSettings } from "./ship-settings";

/** An item that work belongs to, as far as whoever looks may see it. */
export interface WorkItem {
  id: string;
  key: string;
  title: string;
  typeId: string;
}

/** Work that is not on main yet, or came there lately. */
export interface ProjectWork extends CodeWork {
  items: WorkItem[];
  /** For how many days there is something of it, the first one counted. */
  days: number;
}

/** Somebody who commits under an address that nobody here is known by. */
export interface CodeStranger {
  mail: string;
  name: string;
  commits: number;
}

/** What a project has in its code hosts. */
export interface ProjectCode {
  project: { key: string; name: string; zone: string };
  settings: ShipSettings;
  /** Whether any code host was heard at all. */
  heard: boolean;
  /** How main of each repository is that was ever checked. */
  mains: MainState[];
  /** Whether one runs beside the product, which lets its people in. */
  hostBeside: boolean;
  /** Changes that wait to be merged, the oldest first. */
  open: ProjectWork[];
  /** Branches that nobody has proposed to merge, the oldest first. */
  branches: ProjectWork[];
  /** The latest that were merged. */
  merged: ProjectWork[];
  /** How many of all these belong to items that whoever looks may not see: they are left out. */
  hidden: number;
  /** For those who may say who they are. */
  strangers: CodeStranger[];
  people: { id: string; name: string }[];
  rights: { settings: boolean };
  now: Instant;
}

/** So many of those that were merged are shown. */
export const MERGED_SHOWN = 12;

/**
 * For how many calendar days, in a zone, there is something, the first one and today counted.
 * @param since when its first commit was pushed, or it was proposed
 */
export const daysThere = (since: Instant, zone: string, now: Instant): number =>
  Math.max(1, dayNumber(now, zone) - dayNumber(since, zone) + 1);

/** What keeps work from being merged, the gravest first. */
export const OBSTACLES = [
  "checks failed",
  "does not merge cleanly",
  "sent back",
  "not looked at",
  "behind main",
  "old",
] as const;
export type Obstacle = (typeof OBSTACLES)[number];

/** Those that somebody has to mend; the others only wait. */
export const GRAVE: ReadonlySet<Obstacle> = new Set([
  "checks failed",
  "does not merge cleanly",
  "sent back",
]);

/**
 * What keeps a piece of work from being merged; only what was said of what it ends with now counts.
 * @param branchDays after how many days a branch is old
 */
export function obstaclesOf(
  { change, days }: Pick<ProjectWork, "change" | "days">,
  branchDays: number,
): Obstacle[] {
  const isOld = days > branchDays;
  if (change === null) return isOld ? ["old"] : [];
  const { checks, reviews, mergesCleanly, behind } = change;
  const counted = reviews.filter(({ ofOlder }) => !ofOlder);
  const holds: Record<Obstacle, boolean> = {
    "checks failed": checks === "failed",
    "does not merge cleanly": mergesCleanly === false,
    "sent back": counted.some(({ verdict }) => verdict === "sent back"),
    "not looked at": counted.length === 0,
    "behind main": behind !== null && behind > 0,
    old: isOld,
  };
  return OBSTACLES.filter((obstacle) => holds[obstacle]);
}

/** "3 commits behind main" */
export const behindWords = (behind: number): string =>
  `${behind} ${behind === 1 ? "commit" : "commits"} behind main`;
