import type { CountedLimit } from "@/core/board/board-limits";
import { limitState, limitWords } from "@/core/board/limit";

/** A limit that does not hold just now, and by how much. */
export interface BrokenLimit {
  id: string;
  name: string;
  words: string;
  boardId: string | null;
}

/** A limit that more, or fewer, count against than it says; null where it holds. */
export function brokenLimit(limit: CountedLimit): BrokenLimit | null {
  const state = limitState(limit.count, limit);
  if (state.kind !== "over" && state.kind !== "under") return null;
  const { id, name, boardId } = limit;
  return { id, name, boardId, words: limitWords(state, limit) };
}
