import type { Instant } from "@/core/calendar/instant";
import type { Transaction } from "@/db/connection";
import type { Speaker } from "../events/speakers";
import { remembered } from "../remembered";
import type { Told } from "./item-code";

/** Events that a code host or a pipeline sent together, as they are taken in by one transaction. */
export interface Post {
  tx: Transaction;
  source: Speaker;
  now: Instant;
  /** What the events so far tell of items; the items hear it at the end. */
  told: Told[];
  /** Items whose pages show what came; null where no event was about code. */
  shown: Set<string> | null;
  /** What was read once, and holds for the whole of it. */
  read: Map<string, Promise<unknown>>;
}

/** Where an event of a code host is taken in. */
export interface Taking extends Post {
  repositoryId: string;
}

/** Opens a post, of which nothing was taken in yet. */
export const openPost = (tx: Transaction, source: Speaker, now: Instant): Post => ({
  ...{ tx, source, now },
  ...{ told: [], shown: null, read: new Map() },
});

/** What holds for the whole of a post, read when it is asked for first. */
export const readOnce = <T>({ read }: Post, what: string, ask: () => Promise<T>): Promise<T> =>
  remembered(read as Map<string, Promise<T>>, what, ask);

/** Has what begins so read anew when it is asked for. */
export function forget({ read }: Post, beginning: string): void {
  for (const what of read.keys()) if (what.startsWith(beginning)) read.delete(what);
}

/** Notes items whose pages show what came; none where it is about code alone. */
export function noteShown(post: Post, itemIds: Iterable<string>): void {
  post.shown ??= new Set();
  for (const id of itemIds) post.shown.add(id);
}
