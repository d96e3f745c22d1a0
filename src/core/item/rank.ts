import { generateKeyBetween, generateNKeysBetween } from "fractional-indexing";

/**
 * A rank is a text that sorts by its bytes (the database keeps it with `COLLATE "C"`); between any
 * two there is room for another, so placing one item never touches its neighbours. All items of the
 * installation stand in one order, so that a list of items from anywhere has one.
 */
export type Rank = string;

/**
 * A rank between two neighbours; null stands for the top or the bottom end. @throws RangeError when
 * `above` is not above `below`
 */
export function rankBetween(above: Rank | null, below: Rank | null): Rank {
  if (above !== null && below !== null && above >= below)
    throw new RangeError(`no room between ${above} and ${below}`);
  return generateKeyBetween(above, below);
}

/** `count` ranks in order between two neighbours. */
export function ranksBetween(above: Rank | null, below: Rank | null, count: number): Rank[] {
  return generateNKeysBetween(above, below, count);
}

/** The ranks that stand next to some in the order of the whole installation; null at its ends. */
export interface Neighbours {
  above: (rank: Rank) => Rank | null;
  below: (rank: Rank) => Rank | null;
}

/**
 * New ranks for what has to move so that items stand in a wanted order: as few as there can be. The
 * longest run that stands in order already keeps its ranks; each of the others is put directly after
 * the member it follows, before whatever stands there and is not of this list.
 * @param wanted the items in the order that is wanted, with the ranks they have
 * @returns the new ranks by the items' ids
 */
export function ranksForOrder(
  wanted: readonly { id: string; rank: Rank }[],
  neighbours: Neighbours,
): Map<string, Rank> {
  const kept = longestInOrder(wanted.map((w) => w.rank));
  const moved = new Map<string, Rank>();
  const put = (from: number, to: number, above: Rank | null, below: Rank | null) =>
    ranksBetween(above, below, to - from).forEach((rank, i) =>
      moved.set(wanted[from + i].id, rank),
    );
  for (const [i, at] of kept.entries()) {
    const { rank } = wanted[at];
    if (i === 0 && at > 0) put(0, at, neighbours.above(rank), rank);
    const next = kept[i + 1] ?? wanted.length;
    if (next > at + 1) put(at + 1, next, rank, neighbours.below(rank));
  }
  return moved;
}

/** The places of a longest strictly ascending run (patience sorting, C. Schensted 1961). */
function longestInOrder(ranks: readonly Rank[]): number[] {
  const ends: number[] = [];
  const before: (number | undefined)[] = [];
  for (const [i, rank] of ranks.entries()) {
    let [low, high] = [0, ends.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (compareRanks(ranks[ends[middle]], rank) < 0) low = middle + 1;
      else high = middle;
    }
    before[i] = ends[low - 1];
    ends[low] = i;
  }
  const run: number[] = [];
  for (let i = ends.at(-1); i !== undefined; i = before[i]) run.push(i);
  return run.reverse();
}

/** Compares ranks by their bytes; the order that `COLLATE "C"` gives. */
export function compareRanks(a: Rank, b: Rank): number {
  return a < b ? -1 : a > b ? 1 : 0;
}
