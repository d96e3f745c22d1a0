import type { Instant } from "@/core/calendar/instant";
import type { Answered } from "./answer";
import type { Accepted } from "./enough";
import type { TestShown } from "./shown-item";

/** What somebody said, as others read it. */
export interface SaidOfIt {
  accepted: boolean;
  name: string;
  words: string;
  at: Instant;
  environment: string | null;
  build: string | null;
}

/** A piece of work that is shown to somebody, as whoever asked sees it. */
export interface ShownRow {
  itemId: string;
  key: string;
  title: string;
  typeId: string;
  stateName: string;
  answered: Answered;
  /** The latest first. */
  said: SaidOfIt[];
}

/** Somebody whom work is shown to, with how it stands. */
export interface ShowingView {
  id: string;
  /** Whom it is shown to. */
  name: string;
  mail: string;
  /** Whether they have an account. */
  inside: boolean;
  /** The address of their page, for whoever asked and for leads; else null. */
  page: string | null;
  askedBy: string;
  askedAt: Instant;
  until: Instant;
  closed: "taken back" | "over" | null;
  reminders: number;
  remindedAt: Instant | null;
  /** Whether whoever looks may take it back, remind and ask again. */
  mayChange: boolean;
  rows: ShownRow[];
  /** Pieces of it that whoever looks may not see. */
  unseen: number;
}

/** An item that the process waits to have accepted. */
export interface ToBeShown {
  id: string;
  key: string;
  title: string;
  typeId: string;
  stateName: string;
  days: number;
  acceptance: Accepted;
}

/** What is shown to a person who looks, and waits for their own word. */
export interface OwnShown {
  showingId: string;
  itemId: string;
  /** Null where they may not see the item itself. */
  key: string | null;
  title: string;
  how: string;
  address: string;
  tested: TestShown[];
  pictures: ShownPictureView[];
  words: string;
  askedBy: string;
  askedAt: Instant;
  answered: Answered;
}

export interface ShownPictureView {
  id: string;
  name: string;
  width: number | null;
  height: number | null;
}

/** What a project shows to whom. */
export interface AcceptanceView {
  project: { key: string; name: string; zone: string };
  me: { id: string; name: string };
  own: OwnShown[];
  waiting: ToBeShown[];
  showings: ShowingView[];
  /** Whether the process waits for acceptance anywhere. */
  inProcess: boolean;
  people: { id: string; name: string }[];
  rights: { edit: boolean };
  now: Instant;
}

/** How an item is shown and accepted. */
export interface ItemAcceptance {
  acceptance: Accepted;
  to: (Pick<
    ShowingView,
    "id" | "name" | "inside" | "askedBy" | "askedAt" | "until" | "closed" | "remindedAt"
  > & { answered: Answered; said: SaidOfIt[] })[];
  rights: { edit: boolean };
  now: Instant;
}

/** An item as it could be shown: what is known of it already. */
export interface ShowDraft {
  itemId: string;
  key: string;
  title: string;
  /** Whether only some people may see it. */
  restricted: boolean;
  how: string;
  address: string;
  tested: TestShown[];
  /** Pictures that may go with it, with where they are read. */
  pictures: (ShownPictureView & { from: "item" | "run"; run: number | null })[];
}

/** What somebody without an account sees of what is shown to them: nothing internal, no names of people. */
export interface PublicShowing {
  projectName: string;
  /** To whom. */
  name: string;
  words: string;
  askedAt: Instant;
  until: Instant;
  zone: string;
  closed: "taken back" | "over" | null;
  items: {
    itemId: string;
    title: string;
    how: string;
    address: string;
    tested: TestShown[];
    pictures: ShownPictureView[];
    answered: Answered;
    said: SaidOfIt | null;
  }[];
  now: Instant;
}
