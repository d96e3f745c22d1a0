import { heldWords, type CountedLimit } from "./board-limits";

/** What somebody has in their hands, in words, and whether that is more than they may. */
export interface Load {
  words: string;
  over: boolean;
  /** How many more they may take, below 0 where they hold too much; null where nothing limits them. */
  room: number | null;
}

/** The same, with whether they are away, "away until 3 Dec", and what they are good for. */
export interface LoadNow extends Load {
  away: string | null;
  trades: readonly string[];
}

/**
 * "3 of 4 in hand", against the person's limit where there is one.
 * @param items in progress, over all projects
 */
export function loadOf(items: number, limit: CountedLimit | null): Load {
  if (limit === null)
    return { words: items === 0 ? "nothing in hand" : `${items} in hand`, over: false, room: null };
  const room = limit.max === null ? null : limit.max - limit.count;
  const { state, words } = heldWords(limit);
  if (state.kind === "over") return { words: `${items} in hand, ${words}`, over: true, room };
  return { words: `${words} in hand`, over: false, room };
}
