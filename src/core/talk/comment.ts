import type { FileSpot } from "./spot";

/** Whom a message on an item is for; the two are never mixed. */
export const AUDIENCES = ["team", "reporters"] as const;
export type Audience = (typeof AUDIENCES)[number];

/** What may stand below a comment instead of words. */
export const COMMENT_SIGNS = ["seen", "thanks", "agreed", "not so"] as const;
export type CommentSign = (typeof COMMENT_SIGNS)[number];

/** People and teams that a text names, by their ids. */
export interface Named {
  people: string[];
  teams: string[];
}

export const NOBODY_NAMED: Named = { people: [], teams: [] };

/** How far the talk of an item is closed: to those who only look on, or to everybody. */
export const TALK_CLOSINGS = ["members", "nobody"] as const;
export type TalkClosing = (typeof TALK_CLOSINGS)[number];

/** What somebody says, beyond the words. */
export interface Said {
  commentId: string;
  body: string;
  /** The comment that it answers. */
  answersId?: string;
  named?: Named;
  /** People who are asked to answer it. */
  asks?: string[];
  /** Left out where it is for the team. */
  audience?: Audience;
  /** The place on a file that it is about. */
  spot?: FileSpot;
}
