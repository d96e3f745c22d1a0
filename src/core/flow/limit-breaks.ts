import type { LimitBreak } from "@/core/board/limit";
import type { DayNumber, Instant } from "@/core/calendar/instant";
import { dayNumber, weekStart } from "@/core/calendar/zone";

/** That something went beyond a limit. Of what may not be seen neither the item nor who did it. */
export interface PastBreak {
  at: Instant;
  limit: LimitBreak;
  /** Why, of a firm limit and where a process asks. */
  reason: string | null;
  by: string | null;
  item: { id: string; key: string; title: string } | null;
}

export interface WeekOfBreaks {
  /** Monday of the ISO 8601 week. */
  week: DayNumber;
  /** How many went beyond a firm limit, and beyond advice. */
  firm: number;
  advice: number;
  /** How many of these by the name of the limit, the most first. */
  byLimit: { name: string; times: number }[];
  breaks: PastBreak[];
}

/** What went beyond limits by the ISO weeks of a zone's calendar, the latest week first. */
export function breaksByWeek(breaks: readonly PastBreak[], zone: string): WeekOfBreaks[] {
  const weeks = new Map<DayNumber, PastBreak[]>();
  for (const one of breaks) {
    const week = weekStart(dayNumber(one.at, zone));
    weeks.set(week, [...(weeks.get(week) ?? []), one]);
  }
  return [...weeks]
    .sort(([a], [b]) => b - a)
    .map(([week, own]) => {
      const firm = own.filter(({ limit }) => limit.firm !== false).length;
      return {
        week,
        firm,
        advice: own.length - firm,
        byLimit: timesByLimit(own),
        breaks: own.toSorted((a, b) => b.at - a.at),
      };
    });
}

function timesByLimit(breaks: readonly PastBreak[]): { name: string; times: number }[] {
  const times = new Map<string, number>();
  for (const { limit } of breaks)
    times.set(limit.columnName, (times.get(limit.columnName) ?? 0) + 1);
  return [...times]
    .map(([name, n]) => ({ name, times: n }))
    .sort((a, b) => b.times - a.times || (a.name < b.name ? -1 : 1));
}

/** "6 at most 5": what a limit held once it was gone beyond. */
export const breakWords = ({ side, limit, wouldHold, unit }: LimitBreak): string =>
  `${unit === "size" ? "size " : ""}${wouldHold} with at ${side === "maximum" ? "most" : "least"} ${limit}`;
