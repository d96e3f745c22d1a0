import type { Instant } from "@/core/calendar/instant";
import { dayNumber } from "@/core/calendar/zone";
import type { CodeWork } from "./item-code";
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
  /** Changes that wait to be merged, the oldest first. */
  open: ProjectWork[];
  /** Branches that nobody has proposed to merge, the oldest first. */
  branches: ProjectWork[];
  /** The latest that were merged. */
  merged: ProjectWork[];
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

/** What keeps work from being merged, in words; the first is the gravest. */
export function standsAgainst(
  { change, days }: Pick<ProjectWork, "change" | "days">,
  branchDays: number,
): string[] {
  if (change === null) return days > branchDays ? [`older than ${branchDays} days`] : [];
  const { checks, reviews, mergesCleanly, behind } = change;
  const counted = reviews.filter(({ ofOlder }) => !ofOlder);
  return [
    ...(checks === "failed" ? ["checks failed"] : []),
    ...(mergesCleanly === false ? ["does not merge cleanly"] : []),
    ...(counted.some(({ verdict }) => verdict === "sent back") ? ["sent back in review"] : []),
    ...(counted.length === 0 ? ["nobody has looked at it"] : []),
    ...(behind !== null && behind > 0 ? [behindWords(behind)] : []),
    ...(days > branchDays ? [`older than ${branchDays} days`] : []),
  ];
}

/** "3 commits behind main" */
export const behindWords = (behind: number): string =>
  `${behind} ${behind === 1 ? "commit" : "commits"} behind main`;
