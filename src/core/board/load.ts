import { heldWords, type CountedLimit } from "./board-limits";

/** What somebody has in their hands, in words, and whether that is more than they may. */
export interface Load {
  words: string;
  over: boolean;
}

/**
 * "3 of 4 in hand", against the person's limit where there is one.
 * @param items in progress, over all projects
 */
export function loadOf(items: number, limit: CountedLimit | null): Load {
  if (limit === null)
    return { words: items === 0 ? "nothing in hand" : `${items} in hand`, over: false };
  const { state, words } = heldWords(limit);
  if (state.kind === "over") return { words: `${items} in hand, ${words}`, over: true };
  return { words: `${words} in hand`, over: false };
}
