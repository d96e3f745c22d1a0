import { generateKeyBetween, generateNKeysBetween } from "fractional-indexing";

/**
 * A rank is a text that sorts by its bytes (the database keeps it with `COLLATE "C"`); between any two there is room
 * for another, so placing one item never touches its neighbours.
 */
export type Rank = string;

/** A rank between two neighbours; null stands for the top or the bottom end. @throws RangeError when `above` is not above `below` */
export function rankBetween(above: Rank | null, below: Rank | null): Rank {
  if (above !== null && below !== null && above >= below) throw new RangeError(`no room between ${above} and ${below}`);
  return generateKeyBetween(above, below);
}

/** `count` ranks in order between two neighbours. */
export function ranksBetween(above: Rank | null, below: Rank | null, count: number): Rank[] {
  return generateNKeysBetween(above, below, count);
}

/** Compares ranks by their bytes; the order that `COLLATE "C"` gives. */
export function compareRanks(a: Rank, b: Rank): number {
  return a < b ? -1 : a > b ? 1 : 0;
}
