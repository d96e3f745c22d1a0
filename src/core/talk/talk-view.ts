import type { Audience, CommentSign, TalkClosing } from "./comment";
import type { Nameable } from "./named";
import type { SeenSpot } from "./spot";

/** Somebody who is asked something, and whether they have answered in its thread. */
export interface AskedPerson {
  id: string;
  name: string;
  answered: boolean;
}

/** A comment as its reader sees it. */
export interface TalkComment {
  id: string;
  authorId: string | null;
  author: string;
  body: string;
  at: number;
  /** The comment that its thread began with; null where it begins one. */
  threadId: string | null;
  audience: Audience;
  asks: AskedPerson[];
  /** Earlier texts, the first one first; each with when it was changed. */
  earlier: { body: string; until: number }[];
  /** Where it was taken back: by whom, when and why. */
  gone: { by: string; at: number; why: string | null } | null;
  signs: { sign: CommentSign; people: string[]; mine: boolean }[];
  /** Where it was agreed on on a walk: whose it is, and by when. */
  agreed: { owner: string | null; dueOn: string | null } | null;
  /** The place on a file that it is about. */
  spot: SeenSpot | null;
}

/** An item that a text names by its key, as a small preview. */
export interface NamedItem {
  key: string;
  title: string;
  stateName: string;
  finished: boolean;
  assignee: string | null;
}

/** A commit that a text names by its hash, as a small preview. */
export interface NamedCommit {
  hash: string;
  repository: string;
  /** The first line of its message. */
  subject: string;
  by: string;
  onMain: boolean;
  url: string | null;
}

/** The talk about an item. */
export interface Talk {
  comments: TalkComment[];
  closed: TalkClosing | null;
  /** When its reader last looked at it; null where they never did. */
  lookedAt: number | null;
  /** Whom texts may name. */
  nameable: Nameable[];
  /** Items that its texts name and that the reader may see, by key. */
  items: Record<string, NamedItem>;
  /** Commits that its texts name, by their hashes as they are written there. */
  commits: Record<string, NamedCommit>;
  /** Addresses that a message to the reporters goes to. */
  reporters: string[];
  following: { mine: boolean; below: boolean; count: number };
}
