import type { AgeTrack } from "@/core/board/age-track";
import type { Card } from "@/core/board/card";
import type { Instant } from "@/core/calendar/instant";
import type { Day } from "@/core/calendar/month";
import type { StateId, StateKind } from "@/core/workflow/state";

/** The parts of somebody's day, in the order in which they are looked at. */
export const DAY_PARTS = {
  missed: { title: "Missed, or due today", hint: "" },
  waits: { title: "Others wait for you", hint: "you hold it" },
  hands: { title: "In your hands", hint: "most at risk first" },
  awaited: { title: "You wait for others", hint: "others hold it" },
  dates: { title: "Dates", hint: "within a week" },
  fresh: { title: "New to you", hint: "" },
} as const;
export type DayPart = keyof typeof DAY_PARTS;
export const DAY_PART_NAMES = Object.keys(DAY_PARTS) as DayPart[];

/** What can be done about a line, right where it stands. */
export type NextStep =
  | { kind: "move"; verb: string; to: StateId }
  | { kind: "answer"; commentId: string }
  | { kind: "seen"; alertIds: string[] }
  /** Leads to where they say whether they accept it. */
  | { kind: "accept" }
  | { kind: "look" };

/** Something that is one's concern today. */
export interface DayLine {
  card: Card;
  projectKey: string;
  stateName: string;
  track: AgeTrack | null;
  /** Why it stands here. */
  reason: string;
  /** What of the reason is urgent. */
  alarm: string | null;
  next: NextStep;
}

export type DayLines = Record<DayPart, DayLine[]>;

/** What is known of an item that somebody has to do with, as far as their day goes. */
export interface DayItem {
  card: Card;
  projectKey: string;
  stateName: string;
  stateKind: StateKind;
  ofReview: boolean;
  ofTest: boolean;
  /** Whether its next step is work of whoever has it. */
  forAssignee: boolean;
  track: AgeTrack | null;
  /** Its age as a share of the expectation. */
  share: number;
  pastExpectation: string | null;
  next: { verb: string; to: StateId } | null;
  mine: { assignee: boolean; reviewer: boolean; tests: boolean };
  reviewerName: string | null;
  /** Why it is blocked, and whether a blocker waits for this person. */
  blocked: { words: string; byMe: boolean } | null;
  /** For how long it has been in its state, in words. */
  since: string;
  /** The chance that it is finished by the day that it is due; null where nothing says it. */
  byDue: number | null;
}

/** A question that somebody is to answer, or waits to have answered. */
export interface DayQuestion {
  itemId: string;
  commentId: string;
  /** Who asks, or who is asked. */
  who: string;
  words: string;
}

/** What is shown to somebody so that they accept it, and waits for their word. */
export interface DayShown {
  itemId: string;
  who: string;
}

/** What somebody was told and has not looked at. */
export interface DayNews {
  itemId: string;
  alertIds: string[];
  words: string;
}

/** What others changed of what was agreed about an item, which this person has still to see. */
export interface DayChange {
  itemId: string;
  words: string;
}

export interface DayFacts {
  items: readonly DayItem[];
  asked: readonly DayQuestion[];
  asking: readonly DayQuestion[];
  news: readonly DayNews[];
  shown: readonly DayShown[];
  changed: readonly DayChange[];
  today: Day;
  now: Instant;
}
