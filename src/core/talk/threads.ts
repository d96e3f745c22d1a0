import type { TalkComment } from "./talk-view";

/** A comment with what was answered to it. */
export interface Thread {
  first: TalkComment;
  answers: TalkComment[];
}

/** Comments as threads, in the order in which the threads began. */
export function threadsOf(comments: readonly TalkComment[]): Thread[] {
  const threads = new Map<string, Thread>();
  for (const comment of comments) {
    const of = comment.threadId === null ? undefined : threads.get(comment.threadId);
    if (of) of.answers.push(comment);
    else threads.set(comment.id, { first: comment, answers: [] });
  }
  return [...threads.values()];
}

/** The comment that a thread began with, for an answer to any of its comments. */
export function threadOf(
  id: string,
  answersTo: (id: string) => string | null | undefined,
): string | null {
  let at = id;
  // Nothing answers itself; a circle in what was stored ends here all the same.
  for (let steps = 0; steps < 1_000; steps++) {
    const before = answersTo(at);
    if (before == null) return at === id ? null : at;
    at = before;
  }
  return at;
}

/** Answers in a thread before the latest so many are folded. */
export const SHOWN_ANSWERS = 3;
