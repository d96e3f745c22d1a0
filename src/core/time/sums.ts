/*
 * What an item and everything under it was first thought to take, has taken, and still takes. What
 * nobody said counts nothing, and is never guessed.
 */

/** In hours, but for what was spent. */
export interface TimeOfItem {
  firstEstimate: number | null;
  spentMinutes: number;
  left: number | null;
  /** Nothing is left of what has finished, whatever it says. */
  finished: boolean;
}

export interface TimeSums {
  /** In hours; null where nobody said anything. */
  first: number | null;
  spentMinutes: number;
  /** In hours; null where nobody said anything of what is open. */
  left: number | null;
  /** Open items among them that say nothing of what is left. */
  silent: number;
}

const sum = (values: readonly (number | null)[]): number | null => {
  const said = values.filter((one) => one !== null);
  return said.length === 0 ? null : said.reduce((all, one) => all + one, 0);
};

/** Sums over some items. */
export function timeSums(items: readonly TimeOfItem[]): TimeSums {
  const open = items.filter(({ finished }) => !finished);
  return {
    first: sum(items.map(({ firstEstimate }) => firstEstimate)),
    spentMinutes: items.reduce((all, { spentMinutes }) => all + spentMinutes, 0),
    left: sum(open.map(({ left }) => left)),
    silent: open.filter(({ left }) => left === null).length,
  };
}

/**
 * How far the time of an item has gone beside what it was first thought to take.
 * @returns in percent of the first estimate what it comes to by now; null where nothing was thought
 */
export function againstFirst({ first, spentMinutes, left }: TimeSums): number | null {
  if (first === null || first === 0) return null;
  return Math.round((100 * (spentMinutes / 60 + (left ?? 0))) / first);
}
