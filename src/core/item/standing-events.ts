import type { ItemEvent } from "./event";

/** The events that stand: those that were undone left out, those whose undoing was undone not. */
export function standingEvents<E extends ItemEvent>(history: readonly E[]): E[] {
  const gone = new Set<number>();
  for (const event of history.toReversed())
    if (event.kind === "undone" && !gone.has(event.seq))
      for (let seq = event.old.fromSeq; seq <= event.old.toSeq; seq++) gone.add(seq);
  return gone.size === 0 ? [...history] : history.filter((e) => !gone.has(e.seq));
}
