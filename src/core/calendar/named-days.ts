import { addDays, type Day } from "./month";

/** A stretch of whole days; both belong to it. */
export interface NamedDays {
  from: Day;
  to: Day;
  name: string;
}

/** The days of several stretches, each once, with the first name it has. */
export function eachDayOf(stretches: readonly NamedDays[]): { date: Day; name: string }[] {
  const days = new Map<Day, string>();
  for (const { from, to, name } of stretches)
    for (let day = from; day <= to; day = addDays(day, 1)) if (!days.has(day)) days.set(day, name);
  return [...days]
    .map(([date, name]) => ({ date, name }))
    .toSorted((a, b) => (a.date < b.date ? -1 : 1));
}
