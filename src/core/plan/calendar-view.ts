import { z } from "zod";
import type { Instant } from "@/core/calendar/instant";
import { weeksOf, type Day } from "@/core/calendar/month";
import type { SprintStanding } from "./sprint";

/** An item that has a day. */
export interface DatedItem {
  id: string;
  key: string;
  title: string;
  typeId: string;
  on: Day;
  /** Whether it is of no worth after it. */
  fixed: boolean;
  finished: boolean;
}

/** A sprint on the days that it lasts. */
export interface DatedSprint {
  id: string;
  name: string;
  goal: string;
  from: Day;
  to: Day;
  standing: SprintStanding;
}

/** A release on the day it goes out, or was to. */
export interface DatedRelease {
  id: string;
  name: string;
  on: Day;
  out: boolean;
}

/** A private address for calendar programs; what it is itself is told only when it is made. */
export interface FeedMade {
  since: Instant;
  readAt: Instant | null;
}

/** What stands on the days of a month, and of those beside it that share its weeks. */
export interface CalendarView {
  project: { key: string; name: string; zone: string };
  /** Its first day. */
  month: Day;
  today: Day;
  sprints: DatedSprint[];
  releases: DatedRelease[];
  /** Releases to come on the day from which on they are worked towards. */
  begins: { id: string; name: string; on: Day }[];
  /** Releases to come that nobody has given a day. */
  undated: { id: string; name: string }[];
  /** Only what whoever looks may see; fixed dates first. */
  items: DatedItem[];
  /** Days of the project without work. */
  holidays: { date: Day; name: string }[];
  /** Who is away when. */
  away: { id: string; name: string; from: Day; to: Day }[];
  feeds: Record<FeedOf, FeedMade | null>;
}

export const FEEDS = ["project", "mine"] as const;
/** Of what a feed is: of a project, or of what one has oneself in all of them. */
export type FeedOf = (typeof FEEDS)[number];

export const calendarFeedBody = z.object({ of: z.enum(FEEDS) });

export const calendarQuery = z.object({
  /** Any day of the month; this one unless it is said. */
  day: z.iso.date().optional(),
});

/** The days that are shown of a day's month: whole weeks. */
export function daysShown(day: Day): { from: Day; to: Day } {
  const weeks = weeksOf(day);
  return { from: weeks[0][0], to: weeks.at(-1)![6] };
}
