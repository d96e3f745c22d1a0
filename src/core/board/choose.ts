/*
 * Choosing several of what stands in columns: one by one, a run within a column, a whole column.
 */

/** What is chosen, and the one that was turned last. */
export interface ChosenIds {
  ids: ReadonlySet<string>;
  last: string | null;
}

export const NONE_CHOSEN: ChosenIds = { ids: new Set(), last: null };

/** One chosen, or not any more. */
export function withTurned({ ids }: ChosenIds, id: string): ChosenIds {
  const next = new Set(ids);
  if (!next.delete(id)) next.add(id);
  return { ids: next, last: id };
}

/**
 * Everything between the one that was turned last and another, where both stand in one column; else
 * that other alone.
 * @param columns the ids of each column, from top to bottom
 */
export function withRun(
  chosen: ChosenIds,
  id: string,
  columns: readonly (readonly string[])[],
): ChosenIds {
  const column = columns.find((ids) => ids.includes(id)) ?? [id];
  const to = column.indexOf(id);
  const from = chosen.last === null ? -1 : column.indexOf(chosen.last);
  const begin = from < 0 ? to : from;
  const run = column.slice(Math.min(begin, to), Math.max(begin, to) + 1);
  return { ids: new Set([...chosen.ids, ...run]), last: id };
}

/** The whole column, or lane, of the one that was turned last. */
export function withWhole(chosen: ChosenIds, places: readonly (readonly string[])[]): ChosenIds {
  const place = places.find((ids) => chosen.last !== null && ids.includes(chosen.last)) ?? [];
  return { ...chosen, ids: new Set([...chosen.ids, ...place]) };
}
